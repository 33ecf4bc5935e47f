from metaspira.blas import on_one_thread

on_one_thread()
