"""How the sample scenes of the Harrowbeck weaving mill are made."""
