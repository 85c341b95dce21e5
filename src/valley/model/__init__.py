"""The values that pass from stage to stage: Hearing, Chart, Arrangement, Lesson. Frozen; an impossible one cannot be built."""
