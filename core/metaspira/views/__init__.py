"""Views: what is drawn and told of a part beside its figures and checks."""
