"""Hearing → Chart: heard times set on the grid of bars and beats; parts compared; corrections made."""
