"""The words of stacks: gathered to be searched, the doubtful ones to be looked at, put right by hand."""
