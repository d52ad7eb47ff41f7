/** What is wrong with what was typed, said beside it; nothing where nothing is. */
export function Hint({ text }: { text: string }) {
  return text ? (
    <p className="hot mb-0" role="alert">
      {text}
    </p>
  ) : null
}
