import { readWithPart, share, withPart } from "../../wording/format";
import { Heading, StationSlider } from "./parts";
import { CONTRAST_STRIP, StripControls } from "./strip";
import type { TrayProps } from "./tray";

/** The Paper station. */
export function PaperControls(tray: TrayProps) {
  const { recipe, shelf, reading } = tray;
  const paper = shelf.papers.find((p) => p.id === recipe.paper.paper);
  return (
    <>
      <Heading aside={paper?.surface}>{paper?.name}</Heading>
      <p className="mb-3 text-note text-soft">{paper?.about}</p>
      <StationSlider
        tray={tray}
        station="paper"
        field="grade"
        value={recipe.paper.grade ?? 2}
        show={withPart}
        read={readWithPart}
        label={(v) => `Grade ${withPart(v)}`}
      />
      <div className="mt-1 ml-[96px] mr-[72px] flex justify-between text-small text-faint">
        <span>soft</span>
        <span>hard</span>
      </div>
      {reading && (
        <p className="mt-3 text-note text-soft">
          Paper black <b className="font-medium text-ink">{share(reading.paper_black)}</b>, paper
          white <b className="font-medium text-ink">{share(reading.paper_white)}</b> of the picture.
        </p>
      )}
      <StripControls tray={tray} home={CONTRAST_STRIP} />
    </>
  );
}
