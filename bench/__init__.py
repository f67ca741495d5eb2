"""Benchmarks, run by hand: see docs/benchmarks.md."""
