"""The plan: process, hazards, controls, proof, signature."""
