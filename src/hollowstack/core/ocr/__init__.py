"""Reading: the OCR engine, how a page is given to it, and what comes back."""
