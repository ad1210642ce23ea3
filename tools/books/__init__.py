"""The rule tables of docs/method.md and docs/nomenclature.md, from the code's own tables."""
