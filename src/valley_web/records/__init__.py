"""Around the songs: requests, viewers' comments, corrections, times, the calendar."""
