"""What hides what: bodies and a viewpoint in; seen and hidden pieces, visible regions out."""
