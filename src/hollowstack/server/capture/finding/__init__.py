"""Stations that appear by themselves: what they announce on the network (DNS-SD), and which of them are there now."""
