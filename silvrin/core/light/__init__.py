"""Light on the film and the lens filters between the scene and the film."""
