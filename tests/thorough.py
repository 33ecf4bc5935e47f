"""Which tests are left to the thorough run, `bin/test --all`.

`@pytest.mark.thorough` leaves a test to it, with `only=["a"]` these cases of it, with `but=["a"]`
all but these. Of each sweep some cases are in every run.
"""

import pytest


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--all", action="store_true", help="the tests of the thorough run as well")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if not any("::" in argument for argument in config.args):
        _all_there(items)
    if config.getoption("--all"):
        return
    left: list[pytest.Item] = []
    kept: list[pytest.Item] = []
    for item in items:
        (left if _is_left(item) else kept).append(item)
    items[:] = kept
    config.hook.pytest_deselected(items=left)


def _parts(item: pytest.Item) -> tuple[str, str]:
    """The test, and the case of it."""
    test, _, case = item.nodeid.removesuffix("]").partition("[")
    return test, case


def _all_there(items: list[pytest.Item]) -> None:
    """Raises UsageError where a mark names a case that there is not."""
    there = {_parts(item) for item in items}
    for item in items:
        mark = item.get_closest_marker("thorough")
        for name in [] if mark is None else [*mark.kwargs.get("only", ()), *mark.kwargs.get("but", ())]:
            if (_parts(item)[0], name) not in there:
                raise pytest.UsageError(f"{item.nodeid}: there is no case {name!r}")


def _is_left(item: pytest.Item) -> bool:
    mark = item.get_closest_marker("thorough")
    if mark is None:
        return False
    case = _parts(item)[1]
    return case in mark.kwargs["only"] if "only" in mark.kwargs else case not in mark.kwargs.get("but", ())
