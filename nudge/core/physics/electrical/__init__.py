"""Electrical companions of the job: capacitors and heat strips."""
