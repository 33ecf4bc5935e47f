"""Solids: control nets, boundary representation, proof, and the child process that builds."""
