"""The open job: what it solves to, how it is changed and undone, where it is kept. No interface code."""
