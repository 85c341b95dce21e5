"""Songs, recordings, jobs and charts."""
