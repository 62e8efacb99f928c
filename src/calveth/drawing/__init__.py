"""Pictures as neutral shapes in metres, said once and written by whoever draws them."""
