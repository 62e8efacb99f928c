"""Every word a reader sees and every unit it is written in; the core knows neither."""
