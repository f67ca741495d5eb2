"""What stands beside the tablet: scales and thermometers, real ones on a serial line and simulated ones."""
