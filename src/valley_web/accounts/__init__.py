"""Signing in, which is asked for wherever Valley can be reached from another machine."""
