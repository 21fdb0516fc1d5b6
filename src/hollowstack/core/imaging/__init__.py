"""What is done with pixels anywhere: paper and noise, histograms, warping. Knows no page layout and no plan."""
