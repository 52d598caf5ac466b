"""A scene being built: Mitsuba objects whose colours are spectra, three bands of them at a time.

Narrow bands are carried as "RGB" through the plain RGB variant with the same seeds in every pass:
no noise between wavelengths, no limit of 830 nm, and every band is reflectance times light.
"""

import ctypes.util
import os
from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

os.environ.setdefault(
    "DRJIT_LIBLLVM_PATH", ctypes.util.find_library("LLVM-19") or "libLLVM.so.19.1"
)
import mitsuba as mi

mi.set_variant("llvm_ad_rgb")
mi.set_log_level(mi.LogLevel.Error)

from .shapes import Shape, normals  # noqa: E402
from .spectra import MATERIAL, PASSES, Spectrum  # noqa: E402

Transform = mi.ScalarTransform4f
Kind = str | Spectrum


def _spectrum(kind: Kind) -> Spectrum:
    return MATERIAL[kind] if isinstance(kind, str) else kind


def _bitmap(values: NDArray) -> mi.Bitmap:
    return mi.Bitmap(np.ascontiguousarray(values, dtype=np.float32))


class Stage:
    """Parts of a scene by name, and what has to change from pass to pass."""

    def __init__(self) -> None:
        self.parts: dict[str, object] = {"type": "scene"}
        self._banded: list[tuple[str, object, Callable]] = []

    # Colour ------------------------------------------------------------------------------------

    def mixed(
        self, kinds: Sequence[Kind], weights: Sequence[NDArray], scale: NDArray | None = None
    ) -> object:
        """A texture: at each texel the weighted mean of spectra, times scale."""
        shape = np.broadcast_shapes(*(np.shape(w) for w in weights))
        share = np.stack([np.broadcast_to(np.clip(w, 0.0, None), shape) for w in weights])
        share = (share / np.maximum(share.sum(0), 1e-6)).astype(np.float32)
        spectra = np.stack([_spectrum(k) for k in kinds]).astype(np.float32)

        def texels(bands: NDArray) -> NDArray:
            values = np.einsum("khw,kb->hwb", share, spectra[:, bands])
            if scale is not None:
                values = values * scale[..., None]
            return np.ascontiguousarray(np.clip(values, 0.001, 0.99), dtype=np.float32)

        bitmap = {"type": "bitmap", "bitmap": _bitmap(texels(PASSES[0])), "raw": True}
        texture = mi.load_dict(bitmap)
        self._banded.append(("data", texture, texels))
        return texture

    def plain(self, kind: Kind, scale: float = 1.0) -> object:
        """A texture of one spectrum."""
        return self.mixed([_spectrum(kind) * scale], [np.ones((2, 2))])

    # Surfaces ----------------------------------------------------------------------------------

    @staticmethod
    def grey(values: NDArray) -> object:
        """A texture that is the same in every band: roughness and the like."""
        return mi.load_dict({"type": "bitmap", "bitmap": _bitmap(values[..., None]), "raw": True})

    @staticmethod
    def matte(texture: object, both_sides: bool = False) -> object:
        """Lambert's surface."""
        surface = {"type": "diffuse", "reflectance": texture}
        return mi.load_dict({"type": "twosided", "s": surface} if both_sides else surface)

    @staticmethod
    def glossy(texture: object, roughness: float | object, specular: float = 0.5) -> object:
        """A coloured body under a clear skin."""
        return mi.load_dict(
            {
                "type": "principled",
                "base_color": texture,
                "roughness": roughness,
                "specular": specular,
            }
        )

    @staticmethod
    def thin(texture: object, roughness: float = 0.45, passed: float = 0.9) -> object:
        """A leaf: reflects and lets through."""
        return mi.load_dict(
            {
                "type": "principledthin",
                "base_color": texture,
                "roughness": roughness,
                "spec_trans": 0.0,
                "diff_trans": passed,
                "eta": 1.45,
            }
        )

    @staticmethod
    def water(texture: object) -> object:
        """A smooth surface that mirrors by Fresnel; below it, the colour of what floats in it."""
        return mi.load_dict({"type": "plastic", "diffuse_reflectance": texture, "int_ior": 1.333})

    # Shapes ------------------------------------------------------------------------------------

    def add(self, name: str, shape: Shape, surface: object, smooth: bool = True) -> None:
        """A mesh of that surface."""
        properties = mi.Properties()
        properties["bsdf"] = surface
        vertices, faces, uv = shape
        mesh = mi.Mesh(
            name,
            len(vertices),
            len(faces),
            has_vertex_normals=smooth,
            has_vertex_texcoords=True,
            props=properties,
        )
        values = mi.traverse(mesh)
        values["vertex_positions"] = np.ascontiguousarray(vertices, dtype=np.float32).ravel()
        values["faces"] = np.ascontiguousarray(faces, dtype=np.uint32).ravel()
        values["vertex_texcoords"] = np.ascontiguousarray(uv, dtype=np.float32).ravel()
        if smooth:
            values["vertex_normals"] = normals(vertices, faces).ravel()
        values.update()
        self.parts[name] = mesh

    def box(
        self,
        name: str,
        centre: Sequence[float],
        half: Sequence[float],
        surface: object,
        turn: float = 0.0,
        tilt: float = 0.0,
    ) -> None:
        """A box, turned about the upright and then tilted about its own length (degrees)."""
        place = Transform().translate([float(c) for c in centre]).rotate([0, 0, 1], turn)
        place = place.rotate([0, 1, 0], tilt).scale([float(h) for h in half])
        self.parts[name] = {"type": "cube", "to_world": place, "bsdf": surface}

    def ground(self, height: float, side: float, surface: object) -> None:
        """A level square under everything."""
        self.parts["under"] = {
            "type": "rectangle",
            "to_world": Transform().translate([0, 0, height]).scale(side),
            "bsdf": surface,
        }

    # Light -------------------------------------------------------------------------------------

    def emitter(self, power: Spectrum) -> object:
        """Radiance of an area."""
        light = mi.load_dict({"type": "area", "radiance": {"type": "rgb", "value": [1.0] * 3}})
        key = next(k for k in mi.traverse(light).keys() if k.endswith("value"))  # noqa: SIM118
        self._banded.append((key, light, lambda b: mi.Color3f(*[float(power[i]) for i in b])))
        return light

    def sun(self, towards: NDArray, irradiance: Spectrum, distance: float = 2000.0) -> None:
        """A disk of 0.53°."""
        half = np.tan(np.radians(0.53 / 2))
        place = Transform().look_at((towards * distance).tolist(), [0, 0, 0], [0.1, 0.2, 1])
        self.parts["sun"] = {
            "type": "disk",
            "to_world": place @ Transform().scale([float(distance * half)] * 3),
            "emitter": self.emitter(irradiance / (np.pi * half**2)),
        }

    def panel(
        self,
        name: str,
        centre: Sequence[float],
        target: Sequence[float],
        half: tuple[float, float],
        power: Spectrum,
    ) -> None:
        """A lit rectangle that faces target."""
        place = Transform().look_at(list(centre), list(target), [0, 0, 1])
        self.parts[name] = {
            "type": "rectangle",
            "to_world": place @ Transform().scale([half[0], half[1], 1.0]),
            "emitter": self.emitter(power),
        }

    def backdrop(
        self,
        centre: Sequence[float],
        target: Sequence[float],
        half: tuple[float, float],
        cube: NDArray,
    ) -> None:
        """A lit picture (rows, columns, bands) that faces target."""

        def texels(bands: NDArray) -> NDArray:
            return np.ascontiguousarray(cube[::-1][..., bands], dtype=np.float32)

        picture = mi.load_dict(
            {"type": "bitmap", "bitmap": _bitmap(texels(PASSES[0])), "raw": True}
        )
        self._banded.append(("data", picture, texels))
        place = Transform().look_at(list(centre), list(target), [0, 0, 1])
        self.parts["backdrop"] = {
            "type": "rectangle",
            "to_world": place @ Transform().scale([half[0], half[1], 1.0]),
            "emitter": {"type": "area", "radiance": picture},
        }

    def sky(self, cube: NDArray) -> None:
        """Everything around: (rows, columns, bands), as `air.directions` looks."""
        cube = cube.astype(np.float32)
        place = Transform().rotate([1, 0, 0], 90)
        bitmap = _bitmap(cube[..., PASSES[0]])
        sky = mi.load_dict({"type": "envmap", "bitmap": bitmap, "to_world": place})
        values = mi.traverse(sky)
        key = next(k for k in values.keys() if k.endswith("data"))  # noqa: SIM118
        more = values[key].shape[1] - cube.shape[1]  # the renderer repeats columns

        def texels(bands: NDArray) -> NDArray:
            data = cube[..., bands]
            before = [data[:, -1:]] if more == 2 else []
            return np.ascontiguousarray(np.concatenate([*before, data, data[:, : min(more, 1)]], 1))

        self._banded.append((key, sky, texels))
        self.parts["sky"] = sky

    # Camera ------------------------------------------------------------------------------------

    def camera(
        self,
        at: Sequence[float],
        target: Sequence[float],
        field: float,
        size: tuple[int, int],
        aperture: float = 0.0,
        focus: float = 1.0,
        up: Sequence[float] = (0.0, 0.0, 1.0),
        transparent: bool = False,
    ) -> None:
        """A thin lens; field is the horizontal angle, degrees; aperture its radius."""
        lens: dict[str, Any] = {
            "type": "thinlens" if aperture else "perspective",
            "fov": field,
            "to_world": Transform().look_at(list(at), list(target), list(up)),
            "near_clip": 0.05,
            "far_clip": 20000.0,
            "film": {
                "type": "hdrfilm",
                "width": size[0],
                "height": size[1],
                "rfilter": {"type": "box"},
                "pixel_format": "rgba" if transparent else "rgb",
            },
            "sampler": {"type": "independent"},
        }
        if aperture:
            lens |= {"aperture_radius": aperture, "focus_distance": focus}
        self.parts["camera"] = lens

    def load(self) -> object:
        """The scene, ready to render."""
        return mi.load_dict(self.parts)

    def show(self, bands: NDArray) -> None:
        """Set every colour and light to these three bands."""
        for key, thing, values in self._banded:
            parameters = mi.traverse(thing)
            new = values(bands)
            parameters[key] = mi.TensorXf(new) if isinstance(new, np.ndarray) else new
            parameters.update()
