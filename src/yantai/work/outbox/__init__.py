"""Messages to clients: made from templates, shown before they go, sent by the queue."""
