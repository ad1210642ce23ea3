"""The record of a visit: rows are only ever added, so what counts now has to be worked out."""
