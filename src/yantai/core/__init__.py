"""The rules of the job: pure computation, without I/O, clock, database or interface."""
