"""What is shown of each thing: shapes over the wire, sentences in a person's units."""
