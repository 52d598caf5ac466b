/** Until the picture is there: what its file or the sheet has of it, in colour. */
export function Opening({ frame, margin }: { frame: number; margin: number }) {
  return (
    <div className="absolute inset-0" style={{ padding: margin }}>
      <img
        src={`/api/frames/${frame}/preview`}
        alt=""
        className="size-full object-contain opacity-80"
        onError={(event) => {
          event.currentTarget.hidden = true;
        }}
      />
      <p className="absolute inset-x-0 bottom-4 text-center text-note text-white [text-shadow:0_0_4px_#000]">
        Opening the capture…
      </p>
    </div>
  );
}
