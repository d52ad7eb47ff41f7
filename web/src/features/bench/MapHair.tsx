export interface Box {
  left: number
  top: number
  width: number
  height: number
}

interface Props {
  box: Box
  x: number
  y: number
  r: number
}

/** Where the question stands in a picture: a line across, a line up, a point. */
export function Hair({ box, x, y, r }: Props) {
  return (
    <>
      <line x1={x} x2={x} y1={box.top} y2={box.top + box.height} className="map-hair" />
      <line x1={box.left} x2={box.left + box.width} y1={y} y2={y} className="map-hair" />
      <circle cx={x} cy={y} r={r} className="map-point" />
    </>
  )
}
