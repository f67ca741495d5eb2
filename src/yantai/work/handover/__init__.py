"""Handing over: how long containers keep, where they wait, and on which day they are eaten."""
