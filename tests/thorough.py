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
    left = [item for item in items if _is_left(item)]
    items[:] = [item for item in items if not _is_left(item)]
    config.hook.pytest_deselected(items=left)


def _case(item: pytest.Item) -> str:
    return item.name.removesuffix("]").partition("[")[2]


def _named(mark: pytest.Mark) -> list[str]:
    return [*mark.kwargs.get("only", ()), *mark.kwargs.get("but", ())]


def _all_there(items: list[pytest.Item]) -> None:
    """Raises UsageError where a mark names a case that there is not."""
    cases = {(item.path, item.name.partition("[")[0], _case(item)) for item in items}
    for item in items:
        for mark in item.iter_markers("thorough"):
            for name in _named(mark):
                if (item.path, item.name.partition("[")[0], name) not in cases:
                    raise pytest.UsageError(f"{item.nodeid}: there is no case {name!r}")


def _is_left(item: pytest.Item) -> bool:
    mark = item.get_closest_marker("thorough")
    if mark is None:
        return False
    return _case(item) in mark.kwargs["only"] if "only" in mark.kwargs else _case(item) not in _named(mark)
