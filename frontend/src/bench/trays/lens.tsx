import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { useNotice } from "../../parts/Notice";
import { useTray } from "../../state/bench";
import { shutter, signed } from "../../wording/format";
import { readNumber } from "../../wording/numbers";
import { Heading, StationSlider } from "./parts";

type LensName = Schemas["LensName"];
const SEARCH_MS = 200;
const nameOf = (lens: LensName) =>
  lens.model.startsWith(lens.maker) ? lens.model : `${lens.maker} ${lens.model}`;

/** What the lens and the sensor did, taken back. */
export function LensControls() {
  const tray = useTray();
  const { recipe } = tray;
  const { capture } = recipe;
  return (
    <>
      <Profile />
      <Heading>{capture.lens ? "By hand, besides" : "By hand"}</Heading>
      {(["distortion", "lateral_red", "lateral_blue"] as const).map((field) => (
        <StationSlider
          key={field}
          station="capture"
          field={field}
          show={(v) => signed(v, field === "distortion" ? 3 : 4)}
          label={(v) => `${field.replace("_", " ")} ${signed(v, 4)}`}
        />
      ))}
      <StationSlider
        station="capture"
        field="fall_off"
        show={(v) => signed(v, 2)}
        label={(v) => `Light fall-off ${signed(v, 2)}`}
      />
      <StationSlider
        station="capture"
        field="defringe"
        show={(v) => v.toFixed(2)}
        label={(v) => `Defringed ${v.toFixed(2)}`}
      />
      {capture.infrared &&
        (["hot_spot", "hot_spot_size"] as const).map((field) => (
          <StationSlider
            key={field}
            station="capture"
            field={field}
            show={(v) => (field === "hot_spot" ? signed(v, 2) : v.toFixed(2))}
            label={(v) => `Hot spot, ${field === "hot_spot" ? signed(v) : `size ${v.toFixed(2)}`}`}
          />
        ))}
      <Heading>Noise</Heading>
      {(["luminance_noise", "colour_noise"] as const).map((field) => (
        <StationSlider
          key={field}
          station="capture"
          field={field}
          title={field === "luminance_noise" ? "Of light" : "Of colour"}
          show={(v) => v.toFixed(2)}
          label={(v) =>
            `Noise of ${field === "luminance_noise" ? "light" : "colour"} ${v.toFixed(2)}`
          }
        />
      ))}
      <AsTaken />
    </>
  );
}

/** The lens's profile: found from the file, chosen by hand, or none. */
function Profile() {
  const { frame, recipe, change } = useTray();
  const tell = useNotice();
  const [choosing, setChoosing] = useState(false);
  const { lens } = recipe.capture;
  const found = useQuery({
    queryKey: ["lenses of", frame.id],
    queryFn: () => api.lensesOf(frame.id),
    staleTime: Infinity,
  });
  const take = useMutation({
    mutationFn: ({ name, focal, aperture }: Taken) =>
      api.lensProfile(frame.id, {
        maker: name.maker,
        model: name.model,
        crop: name.crop,
        focal,
        aperture,
      }),
    onSuccess: (profile) => {
      setChoosing(false);
      change("capture", { lens: profile }, `Lens profile ${profile.name}`);
    },
    onError: tell,
  });
  const best = found.data?.[0];
  const does = lens
    ? [
        lens.distortion?.length && "distortion",
        lens.red?.length && "fringes",
        lens.fall_off?.length && "fall-off",
      ].filter(Boolean)
    : [];
  return (
    <div data-control="capture.lens">
      <Heading aside={does.length ? does.join(", ") : undefined}>Lens profile</Heading>
      {lens ? (
        <p className="truncate text-[12.5px]" title={lens.name}>
          {lens.name}
        </p>
      ) : (
        <p className="text-note text-soft">
          {!frame.metadata.lens
            ? "The file does not name its lens."
            : found.isSuccess
              ? `The file names “${frame.metadata.lens}”${
                  best ? `: ${nameOf(best)}.` : "; no profile of it is known."
                }`
              : "…"}
        </p>
      )}
      <div className="mt-1 flex gap-1.5">
        {!lens && best && (
          <Button disabled={take.isPending} onClick={() => take.mutate({ name: best })}>
            Use it
          </Button>
        )}
        <Button pressed={choosing} onClick={() => setChoosing(!choosing)}>
          {lens || best ? "Another…" : "Choose…"}
        </Button>
        {lens && (
          <Button onClick={() => change("capture", { lens: null }, "No lens profile")}>None</Button>
        )}
      </div>
      {choosing && (
        <Search
          focal={frame.metadata.focal_length ?? null}
          aperture={frame.metadata.aperture ?? null}
          onTake={(taken) => take.mutate(taken)}
        />
      )}
    </div>
  );
}

interface Taken {
  name: LensName;
  focal?: number | null;
  aperture?: number | null;
}

interface SearchProps {
  /** Of the file, where it says them. */
  focal: number | null;
  aperture: number | null;
  onTake: (taken: Taken) => void;
}

/** Any lens there is, with the focal length and f-number it was used at. */
function Search({ focal, aperture, onTake }: SearchProps) {
  const [words, setWords] = useState("");
  const [stood, setStood] = useState({
    focal: focal ? String(Math.round(focal)) : "",
    aperture: aperture ? String(Number(aperture.toFixed(1))) : "",
  });
  const typed = (text: string) => (text.trim() ? (readNumber(text) ?? Number.NaN) : null);
  const odd = Object.values(stood).some((text) => Number.isNaN(typed(text)));
  const found = useQuery({
    queryKey: ["lenses", words],
    queryFn: async ({ signal }) => {
      await new Promise((resolve) => setTimeout(resolve, SEARCH_MS));
      return signal.aborted ? [] : api.searchLenses(words);
    },
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  return (
    <div className="mt-1.5 rounded bg-well p-1.5">
      <input
        // opened to be typed in
        // biome-ignore lint/a11y/noAutofocus: the field was just asked for
        autoFocus
        aria-label="Search lenses"
        placeholder="Words of its name, e.g. 35 1.8"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        className="w-full bg-transparent px-1 text-[12.5px] placeholder:text-faint"
      />
      <div className="mt-1 grid grid-cols-2 gap-2 px-1 text-note text-soft">
        {(
          [
            ["focal", "Focal length, mm"],
            ["aperture", "f-number"],
          ] as const
        ).map(([name, text]) => (
          <label key={name} className="flex items-center justify-between gap-1.5">
            {text}
            <input
              value={stood[name]}
              placeholder="its own"
              aria-invalid={Number.isNaN(typed(stood[name]))}
              onChange={(event) => setStood({ ...stood, [name]: event.target.value })}
              className="w-14 rounded-[2px] bg-raise px-1 text-right text-ink aria-invalid:text-loss"
            />
          </label>
        ))}
      </div>
      <ul className="mt-1 h-[128px] overflow-y-auto">
        {found.data?.map((lens) => (
          <li key={`${nameOf(lens)} ${lens.crop}`}>
            <button
              type="button"
              disabled={odd}
              onClick={() =>
                onTake({
                  name: lens,
                  focal: typed(stood.focal),
                  aperture: typed(stood.aperture),
                })
              }
              title={`${nameOf(lens)}, measured at a crop factor of ${lens.crop}`}
              className="flex w-full justify-between gap-2 rounded-[2px] px-1 py-0.5 text-left text-note text-soft hover:bg-lift hover:text-ink"
            >
              <span className="truncate">{nameOf(lens)}</span>
              <span className="shrink-0 text-faint">× {lens.crop}</span>
            </button>
          </li>
        ))}
        {found.data?.length === 0 && (
          <li className="px-1 text-note text-faint">No lens has all these words in its name.</li>
        )}
      </ul>
    </div>
  );
}

function AsTaken() {
  const { frame } = useTray();
  const { metadata } = frame;
  const exposure = [
    metadata.shutter && shutter(metadata.shutter),
    metadata.aperture && `f/${Number(metadata.aperture.toFixed(1))}`,
    metadata.sensitivity && `ISO ${metadata.sensitivity}`,
    metadata.focal_length && `${Math.round(metadata.focal_length)} mm`,
  ].filter(Boolean);
  const rows: [string, string | null][] = [
    ["File", frame.file_name],
    ["Camera", metadata.camera ?? null],
    ["Lens", metadata.lens ?? null],
    ["Exposure", exposure.join(" · ") || null],
  ];
  return (
    <>
      <Heading>As taken</Heading>
      <dl className="grid grid-cols-[72px_1fr] gap-y-0.5 text-note">
        {rows
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-faint">{name}</dt>
              <dd className="truncate text-soft" title={value ?? ""}>
                {value}
              </dd>
            </div>
          ))}
      </dl>
    </>
  );
}
