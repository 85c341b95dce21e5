"""Valley's web application: Django on top of the core. Only services and tasks call the core."""
