"""Arrangement → Lesson: what to say and show, step by step."""
