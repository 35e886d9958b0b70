"""The picture on the felt, with what is marked on it, under the hand."""
