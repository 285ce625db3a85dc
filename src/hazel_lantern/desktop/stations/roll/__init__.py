"""Roll: on the day: cautions, the picture, a hand or a controller, takes."""
