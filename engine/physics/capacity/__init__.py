"""Delivered capacity from the air side."""
