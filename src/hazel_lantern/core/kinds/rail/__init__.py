"""What sliders and overhead rails share: a carriage on one or two straight rails."""
