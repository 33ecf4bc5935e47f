"""Schemathesis over the published schema: no input makes the server fail."""

import pytest
import schemathesis
from hypothesis import HealthCheck, settings
from metaspira_server.wsgi import application
from schemathesis.checks import not_a_server_error

# the coverage phase writes out every branch of the recipe's schema, which takes minutes
config = schemathesis.Config.from_dict({"phases": {"coverage": {"enabled": False}}})
schema = schemathesis.openapi.from_wsgi("/api/openapi.json", application, config=config)


@pytest.mark.django_db
@schema.parametrize()
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_input_breaks_the_server(case, handed):
    case.call_and_validate(checks=[not_a_server_error])
