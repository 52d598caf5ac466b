import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { addProfile } from "../api/client";
import type { Output, OutputSets, Through } from "../api/types";
import { Button } from "../parts/Button";
import { Choice, Field, Tick } from "../parts/Field";
import { useNotice } from "../parts/Notice";
import { PLAIN_ONLY, SPACES } from "./outputs";

/** In which colours a file is, and through which profile. */
export function Colours(props: {
  output: Output;
  profiles: OutputSets["profiles"];
  set: (some: Partial<Output>) => void;
  onPress?: (through: Through) => void;
}) {
  const { output, profiles, set, onPress } = props;
  const tell = useNotice();
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const plain = PLAIN_ONLY.includes(output.format);
  const known = SPACES.filter(({ value }) => !plain || ["own", "grey", "srgb"].includes(value));
  const own = plain ? [] : profiles.map(({ id, name }) => ({ value: id, text: name }));
  return (
    <Field title="Colours">
      <Choice
        label="Colours"
        value={output.profile ?? output.space}
        options={[...known, ...own]}
        onPick={(next) => {
          const space = SPACES.find(({ value }) => value === next)?.value;
          set(space ? { space, profile: null } : { space: "profile", profile: next });
        }}
        className="min-w-0 flex-1"
      />
      {!plain && (
        <>
          <Button
            title="An ICC profile of a printer or a screen, from a file"
            onClick={() => picker.current?.click()}
          >
            Profile…
          </Button>
          <input
            ref={picker}
            type="file"
            accept=".icc,.icm"
            aria-label="A profile from a file"
            className="hidden"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (!file) return;
              addProfile(file)
                .then(({ id }) => {
                  queries.invalidateQueries({ queryKey: ["output-sets"] });
                  set({ space: "profile", profile: id });
                })
                .catch(tell);
            }}
          />
        </>
      )}
      {(output.space === "profile" || output.space === "romm") && (
        <>
          <Choice
            label="Rendering intent"
            value={output.intent}
            options={[
              { value: "relative", text: "relative colorimetric" },
              { value: "perceptual", text: "perceptual" },
              { value: "saturation", text: "saturation" },
              { value: "absolute", text: "absolute colorimetric" },
            ]}
            onPick={(intent) => set({ intent })}
          />
          <Tick on={output.black_point} onTick={(black_point) => set({ black_point })}>
            Black point compensation
          </Tick>
          {onPress && output.profile && (
            <Button
              title="The print on the Bench as it comes back from this profile"
              onClick={() =>
                onPress({
                  profile: output.profile ?? "",
                  intent: output.intent,
                  black_point: output.black_point,
                  paper: false,
                  outside: false,
                })
              }
            >
              Soft proof
            </Button>
          )}
        </>
      )}
    </Field>
  );
}
