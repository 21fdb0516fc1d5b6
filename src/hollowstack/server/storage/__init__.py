"""All files of the server: masters, results, documents, spools. Nothing is told before it is safely on the disk."""
