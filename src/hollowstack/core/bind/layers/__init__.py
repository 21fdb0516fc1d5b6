"""Grey and colour pages in layers: ink as a stencil, pictures and tinted paper in patches, over the colour of the paper."""
