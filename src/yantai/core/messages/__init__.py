"""Messages to clients: what each is for, and how its words are made from a template."""
