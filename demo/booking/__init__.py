"""The booking service of Saltmarsh Ferries."""
