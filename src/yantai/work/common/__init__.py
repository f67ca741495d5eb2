"""What several rooms need: who is signed in, errors in words, typed values, the workspace."""
