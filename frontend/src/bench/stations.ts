import type { ReactNode } from "react";
import type { Facts, Frame, Reading, Recipe, Shelf } from "../api/client";
import type { StationName } from "../state/usePrint";
import { development, gradeName, kelvin, seconds, signedStops } from "../wording/format";
import {
  CapturePlot,
  DevelopmentPlot,
  EnlargerPlot,
  FilmPlot,
  LightPlot,
  PaperPlot,
} from "./plots";

export interface Station {
  name: StationName;
  title: string;
  about: string;
  plot: (props: { facts: Facts; reading: Reading; small?: boolean }) => ReactNode;
  says: (recipe: Recipe, shelf: Shelf, facts: Facts | null, frame: Frame) => string;
}

const named = (list: { id: string; name: string }[], id: string) =>
  list.find((item) => item.id === id)?.name ?? id;

const KINDS: Record<string, string> = { raw: "Raw", merged: "Merged" };

function balanceOf({ capture }: Recipe, frame: Frame): string {
  if (capture.infrared) return "infrared";
  if (capture.balance) return "picked neutral";
  const warmth = capture.warmth ?? 0;
  return warmth ? `${kelvin(frame.metadata.temperature, warmth)} K` : "as shot";
}

/** The light path, in order. */
export const STATIONS: Station[] = [
  {
    name: "capture",
    title: "Capture",
    about: "The file becomes linear light.",
    plot: CapturePlot,
    says: (recipe, _, __, frame) =>
      `${KINDS[frame.kind] ?? frame.kind.toUpperCase()} · ${balanceOf(recipe, frame)} · ${signedStops(recipe.capture.exposure ?? 0)} stops`,
  },
  {
    name: "light",
    title: "Light",
    about: "What the film was lit by, and the glass before it.",
    plot: LightPlot,
    says: (recipe, shelf) => {
      const { temperature = 0, lens_filter = "none", second_filter = "none" } = recipe.light;
      const lamp = shelf.lights.find((l) => l.id === recipe.light.source)?.name;
      const glass = [lens_filter, second_filter].filter((id) => id !== "none");
      const names = glass.map((id) => named(shelf.filters, id)).join(" + ");
      return `${lamp ?? `${Math.round(temperature)} K`} · ${names || "no filter"}`;
    },
  },
  {
    name: "film",
    title: "Film",
    about: "Light becomes exposure, exposure becomes silver.",
    plot: FilmPlot,
    says: (recipe, shelf) => {
      const stock = shelf.stocks.find((s) => s.id === recipe.film.stock);
      return `${stock?.name ?? recipe.film.stock} · EI ${Math.round(recipe.film.exposure_index ?? stock?.speed ?? 0)}`;
    },
  },
  {
    name: "development",
    title: "Development",
    about: "The contrast of the negative.",
    plot: DevelopmentPlot,
    says: (recipe, _, facts) =>
      facts
        ? `${development(recipe.development.n ?? 0)}${
            recipe.development.developer === "general" ? "" : ` · ${recipe.development.developer}`
          } · ${facts.negative_range.map((d) => d.toFixed(2)).join(" to ")} D`
        : development(recipe.development.n ?? 0),
  },
  {
    name: "enlarger",
    title: "Enlarger",
    about: "The negative is projected on the paper.",
    plot: EnlargerPlot,
    says: (recipe, _, facts) =>
      facts
        ? `${seconds(facts.time)} s · ${facts.split ? "in two" : recipe.enlarger.time ? "set by hand" : "standard time"}${recipe.enlarger.head === "condenser" ? " · condenser" : ""}`
        : "",
  },
  {
    name: "paper",
    title: "Paper",
    about: "Exposure becomes a picture.",
    plot: PaperPlot,
    says: (recipe, shelf, facts) =>
      `${named(shelf.papers, recipe.paper.paper ?? "")} · ${facts?.split ? `split ${gradeName(facts?.grade ?? 2)}` : `grade ${gradeName(facts?.grade ?? recipe.paper.grade ?? 2)}`}`,
  },
];
