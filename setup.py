"""The wheel takes the workbench with it: the server, the built interface and the samples."""

import shutil
from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

WORKBENCH = ("server", "web/dist", "demo", "bin/web", "bin/worker", "deploy/supervisord.conf")


class WithWorkbench(build_py):
    def run(self):
        super().run()
        if self.editable_mode:
            return
        if not Path("web/dist/index.html").is_file():
            raise SystemExit("the interface is not built: run bin/setup web first")
        for name in WORKBENCH:
            to = Path(self.build_lib) / "metaspira/workbench" / name
            to.parent.mkdir(parents=True, exist_ok=True)
            if Path(name).is_dir():
                unwanted = shutil.ignore_patterns("__pycache__", ".metaspira")
                shutil.copytree(name, to, ignore=unwanted, dirs_exist_ok=True)
            else:
                shutil.copy(name, to)


setup(cmdclass={"build_py": WithWorkbench})
