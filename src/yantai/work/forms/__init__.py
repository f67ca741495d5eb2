"""Forms by link: a new client tells what a coach needs to know, and later how it was."""
