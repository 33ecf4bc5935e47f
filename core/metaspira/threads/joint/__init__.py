"""Threaded joints: a thread and its mate under load."""
