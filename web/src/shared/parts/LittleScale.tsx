/** A number against its limit: the allowed band thick on a thin scale, the reading a pointer. */
export function LittleScale(props: {
  low: number
  high: number
  bandFrom: number
  bandTo: number
  value: number | null
  tone?: 'cold' | 'hot' | 'sea'
  label: string
}) {
  const { low, high, value, tone = 'sea' } = props
  const at = (n: number) => 4 + ((Math.min(Math.max(n, low), high) - low) / (high - low)) * 152
  const from = at(props.bandFrom)
  return (
    <svg className="little-scale" viewBox="0 0 160 16" role="img" aria-label={props.label} preserveAspectRatio="none">
      <line x1={4} x2={156} y1={11} y2={11} className="scale-line" />
      <line
        x1={from}
        x2={Math.max(at(props.bandTo), from + 2)}
        y1={11}
        y2={11}
        className={`scale-band scale-${tone}`}
      />
      {value !== null && <path d={`M${at(value)} 11l-6 -9h12z`} className="scale-pointer" />}
    </svg>
  )
}
