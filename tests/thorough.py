"""Which tests are left to the thorough run, `bin/test --all`.

`@pytest.mark.thorough` leaves a test to it, with `only=["a"]` these cases of it, with `but=["a"]`
all but these. In every run there is beside each a test or a case that goes the same way.
"""

import pytest


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--all", action="store_true", help="the tests of the thorough run as well")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if config.getoption("--all"):
        return
    left = [item for item in items if _is_left(item)]
    items[:] = [item for item in items if not _is_left(item)]
    config.hook.pytest_deselected(items=left)


def _is_left(item: pytest.Item) -> bool:
    mark = item.get_closest_marker("thorough")
    if mark is None:
        return False
    case = item.name.removesuffix("]").partition("[")[2]
    return case in mark.kwargs["only"] if "only" in mark.kwargs else case not in mark.kwargs.get("but", ())
