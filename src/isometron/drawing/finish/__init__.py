"""What brings a framework to a base drawing: line weights, surroundings, mirror images, marks."""
