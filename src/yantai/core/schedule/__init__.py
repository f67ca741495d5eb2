"""The order of work of a cook day: who does what when, on what, and when it is ready to fill."""
