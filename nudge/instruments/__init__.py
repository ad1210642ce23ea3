"""Where readings come from: one small protocol for the simulated kit, files and real devices."""
