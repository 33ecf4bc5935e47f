"""The wheel takes the workbench with it: the server, the built interface and the samples. What is compiled
ahead of time makes it one of its platform."""

import shutil
from pathlib import Path

from setuptools import Distribution, setup
from setuptools.command.build_py import build_py

WORKBENCH = ("server", "web/dist", "demo", "bin/web", "bin/worker", "deploy/supervisord.conf")


class WithWorkbench(build_py):
    def run(self):
        super().run()
        if self.editable_mode:
            return
        if not Path("web/dist/index.html").is_file():
            raise SystemExit("the interface is not built: run bin/setup web first")
        if not list(Path(self.build_lib).glob("metaspira/numbers/_compiled_*")):
            raise SystemExit("what is compiled ahead of time is missing: run bin/setup python first")
        for name in WORKBENCH:
            to = Path(self.build_lib) / "metaspira/workbench" / name
            to.parent.mkdir(parents=True, exist_ok=True)
            if Path(name).is_dir():
                unwanted = shutil.ignore_patterns("__pycache__", ".metaspira")
                shutil.copytree(name, to, ignore=unwanted, dirs_exist_ok=True)
            else:
                shutil.copy(name, to)


class OfItsPlatform(Distribution):
    def has_ext_modules(self):
        return True


setup(cmdclass={"build_py": WithWorkbench}, distclass=OfItsPlatform)
