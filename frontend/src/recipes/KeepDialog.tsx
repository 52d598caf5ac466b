import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { Button } from "../parts/Button";
import { Naming } from "./Naming";
import { SettingsChoice } from "./SettingsChoice";
import { Sheet } from "./Sheet";

/** Keeps settings of a print under a name. */
export function KeepDialog({
  print,
  kept,
  onClose,
}: {
  print: number;
  kept: () => Promise<void>;
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const [named, setNamed] = useState({ name: "", group: "", note: "" });
  const [chosen, setChosen] = useState<Set<string> | null>(null);
  const source = useQuery({
    queryKey: ["settings", print],
    queryFn: () => kept().then(() => api.settingsOf(print)),
  });
  const fields = chosen ?? new Set(source.data?.usual);
  const keep = useMutation({
    mutationFn: () => api.keepRecipe({ ...named, print_id: print, fields: [...fields] }),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["recipes"] });
      onClose();
    },
  });
  return (
    <Sheet
      title="Keep a recipe"
      about="The look of this print, or what you choose of it, to be put on others. Exposure and time are left out to begin with: they differ for every frame."
      wrong={keep.error ?? source.error}
      onClose={onClose}
      buttons={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            go
            disabled={!named.name.trim() || fields.size === 0 || keep.isPending}
            onClick={() => keep.mutate()}
          >
            Keep it
          </Button>
        </>
      }
    >
      <Naming now={named} onChange={setNamed} />
      <div className="mt-3">
        {source.data && (
          <SettingsChoice holds={source.data.holds} chosen={fields} onChoose={setChosen} />
        )}
      </div>
    </Sheet>
  );
}
