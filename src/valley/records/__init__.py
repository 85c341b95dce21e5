"""What is kept around the songs: the way from request to published lesson, times, the calendar, what viewers write."""
