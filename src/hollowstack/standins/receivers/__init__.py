"""Simulated places that documents are sent to: a mail server, an object storage, a machine that speaks SFTP."""
