"""Long work that any worker does, on this machine or on another, without a database.

`kinds` lists what is done, `working` does one of it, `board` is what worker and server tell each other, and
`services` keeps the server's own record of each.
"""
