"""Samples in, features out: the only place that touches sound. Times in seconds, sample rate in hertz."""
