"""Collections: the tree in which an archive keeps its papers, and under which stacks are filed."""
