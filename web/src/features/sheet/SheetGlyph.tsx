import { MarkGlyph, shapeOf } from '../../shared/parts/StateMark'

/** A state's mark among words. */
export function SheetGlyph({ state }: { state: string }) {
  return (
    <svg width={18} height={18} viewBox="0 0 20 20" aria-hidden="true" className="sh-glyph">
      <MarkGlyph shape={shapeOf(state)} x={10} y={10} size={17} />
    </svg>
  )
}
