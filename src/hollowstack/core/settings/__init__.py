"""What people choose: treatments, and one page's departures from them."""
