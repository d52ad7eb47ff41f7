"""The record on paper."""
