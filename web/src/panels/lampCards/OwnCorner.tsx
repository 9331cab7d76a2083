/** It is otherwise in this shot. */
export function OwnCorner() {
  return (
    <span
      aria-hidden
      data-own
      title="This shot has it of its own"
      className="ml-auto h-0 w-0 border-t-[9px] border-l-[9px] border-t-plum border-l-transparent"
    />
  );
}
