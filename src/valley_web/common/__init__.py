"""What every app leans on: authentication, errors, files with seeking, the page, starting and stopping."""
