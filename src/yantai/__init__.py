"""Yantai: batch cooking to macro targets."""
