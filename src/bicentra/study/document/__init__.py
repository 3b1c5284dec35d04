"""The open vehicle: history, store, recovery, what to start from, what to do next."""
