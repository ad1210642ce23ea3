"""The Pocket: every small sum of the trade, worked out live without a visit."""
