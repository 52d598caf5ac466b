"""One capture on three grades of paper, as files and as figures: the Python interface in use.

python examples/three_grades.py CAPTURE FOLDER
"""

import sys
from pathlib import Path

import silvrin


def main(image: str, folder: str) -> None:
    capture = silvrin.open_capture(image)
    made = capture.proposed()
    print(f"{capture.path.name}, {capture.width} × {capture.height} pixels: {made.says}")
    Path(folder).mkdir(parents=True, exist_ok=True)
    for grade in (1.5, 2.5, 3.5):
        print_ = made.changed(paper={"grade": grade})
        numbers = print_.numbers(long_side=1200, bits=8)
        black, white = (numbers == 0).mean(), (numbers == 255).mean()
        target = Path(folder) / f"{capture.path.stem}, grade {grade}.jpg"
        file = print_.deliver(
            target, format="jpeg", size={"by": "long", "value": 2048}, creator="A. Printer"
        )
        print(
            f"grade {grade}: {black:.1%} full black, {white:.1%} bare paper, {file.width} px wide"
        )
    density = made.density(long_side=1200)
    print(f"the negative spans {density.min():.2f} to {density.max():.2f} above base and fog")


if __name__ == "__main__":
    main(*sys.argv[1:3])
