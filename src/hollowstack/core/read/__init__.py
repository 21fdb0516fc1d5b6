"""What is made of a reading: its order, what is doubtful of it, what hands have put right, and how it is written out."""
