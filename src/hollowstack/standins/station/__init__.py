"""Simulated capture stations that speak eSCL over HTTP; ``python -m hollowstack.standins.station`` starts three."""
