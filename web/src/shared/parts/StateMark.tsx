import { useTranslation } from 'react-i18next'

export type MarkShape = 'done' | 'due' | 'close' | 'late' | 'fail' | 'none'

const SHAPES: Record<string, MarkShape> = {
  pass: 'done',
  done: 'done',
  too_close: 'close',
  ask: 'close',
  advisory: 'close',
  departs: 'close',
  fail: 'fail',
  will_fail: 'fail',
  would_fail: 'fail',
  trouble: 'fail',
  late: 'late',
  missed: 'late',
  due: 'due',
  upcoming: 'due',
  pending: 'due',
  not_measured: 'none',
  would_meet: 'due',
}

export function shapeOf(state: string): MarkShape {
  return SHAPES[state] ?? 'due'
}

/** The five shapes, the same everywhere; drawn inside an SVG at a point. */
export function MarkGlyph({ shape, x, y, size = 14 }: { shape: MarkShape; x: number; y: number; size?: number }) {
  const r = size / 2
  switch (shape) {
    case 'done':
      return (
        <g>
          <circle cx={x} cy={y} r={r} className="mark-done" />
          <path
            d={`M${x - r * 0.45} ${y + r * 0.02}l${r * 0.34} ${r * 0.36} ${r * 0.6} -${r * 0.72}`}
            className="mark-tick"
          />
        </g>
      )
    case 'close':
      return (
        <g>
          <path d={`M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}L${x - r} ${y}Z`} className="mark-close-line" />
          <path d={`M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}Z`} className="mark-close" />
        </g>
      )
    case 'late':
      return <path d={`M${x} ${y - r}L${x + r} ${y + r * 0.85}L${x - r} ${y + r * 0.85}Z`} className="mark-late" />
    case 'fail':
      return (
        <g>
          <rect x={x - r * 0.9} y={y - r * 0.9} width={r * 1.8} height={r * 1.8} rx={1.5} className="mark-fail" />
          <path
            d={`M${x - r * 0.4} ${y - r * 0.4}l${r * 0.8} ${r * 0.8}m0 -${r * 0.8}l-${r * 0.8} ${r * 0.8}`}
            className="mark-tick"
          />
        </g>
      )
    case 'none':
      return <circle cx={x} cy={y} r={r * 0.78} className="mark-none" />
    default:
      return <circle cx={x} cy={y} r={r * 0.8} className="mark-due" />
  }
}

/** A state as shape and word. `bare` leaves the word to the screen reader. */
export function StateMark({ state, bare = false, size = 20 }: { state: string; bare?: boolean; size?: number }) {
  const { t } = useTranslation()
  const word = t(`state.${state}`, { defaultValue: state })
  return (
    <span className="state-mark">
      <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true">
        <MarkGlyph shape={shapeOf(state)} x={10} y={10} size={17} />
      </svg>
      <span className={bare ? 'visually-hidden' : 'strong'}>{word}</span>
    </span>
  )
}
