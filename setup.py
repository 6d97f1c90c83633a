"""What pyproject.toml cannot say: a package is not built without its screens."""

from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

SCREENS = Path(__file__).parent / "src" / "valleywind" / "web" / "index.html"


class WithScreens(build_py):
    """Copies the package, screens and all."""

    def run(self) -> None:
        if not self.editable_mode and not SCREENS.exists():
            raise SystemExit("The screens are not built, and the package would have none. Run `make dist`.")
        super().run()


setup(cmdclass={"build_py": WithScreens})
