"""One module a task: arrays in, values out, no files and no samples."""
