import { type RefObject, useEffect, useState } from 'react'

import { MarkGlyph, shapeOf } from '../../shared/parts/StateMark'
import { HEAD_PX, intoView, type Window } from './geometry'
import { Journey } from './Journey'
import type { Sheet } from './SheetView'

const HIGH_PX = 64
const MOST_SEEN = 0.8 // of a sheet: with more of it in sight nobody is lost

interface Props {
  sheet: Sheet
  widths: readonly number[]
  frame: RefObject<HTMLElement | null>
  /** The step to have in sight: where something is open, goes wrong, or runs now. */
  towards: string | null
}

/** A sheet wider than its frame, small and whole above it: where one is on it, and where it goes wrong. */
export function Overview({ sheet, widths, frame, towards }: Props) {
  const seen = useSeen(frame, widths)
  const total = widths.reduce((sum, width) => sum + width, 0)
  useSight(frame, widths, towards === null ? -1 : sheet.columns.findIndex((column) => column.step === towards))
  if (!total || seen.wide > MOST_SEEN * total) return null
  const scale = seen.wide / total
  const small = widths.map((width) => width * scale)
  const to = (x: number) => frame.current?.scrollTo({ left: x / scale - seen.wide / 2, behavior: 'smooth' })
  return (
    // the grid below is walked by keys; this is for eyes and fingers
    <div
      className="sh-overview no-print"
      aria-hidden="true"
      style={{ marginInlineStart: HEAD_PX, width: seen.wide }}
      onClick={(event) => to(event.clientX - event.currentTarget.getBoundingClientRect().left)}
    >
      <Journey sheet={sheet} widths={small} height={HIGH_PX} chosen={null} small />
      <svg className="sh-overview-marks" width={seen.wide} height={HIGH_PX}>
        {sheet.columns.map((column, index) =>
          column.standing === 'fails' ? (
            <MarkGlyph
              key={column.step}
              shape={shapeOf('would_fail')}
              x={small.slice(0, index).reduce((sum, width) => sum + width, 0) + (small[index] ?? 0) / 2}
              y={11}
              size={15}
            />
          ) : null,
        )}
        <rect x={seen.from * scale} y={1} width={seen.wide * scale} height={HIGH_PX - 2} className="sh-overview-seen" />
      </svg>
    </div>
  )
}

function useSeen(frame: RefObject<HTMLElement | null>, widths: readonly number[]): Window {
  const [seen, setSeen] = useState<Window>({ from: 0, wide: 0 })
  useEffect(() => {
    const element = frame.current
    if (!element) return
    const read = () => setSeen({ from: element.scrollLeft, wide: element.clientWidth - HEAD_PX })
    read()
    element.addEventListener('scroll', read, { passive: true })
    return () => element.removeEventListener('scroll', read)
  }, [frame, widths])
  return seen
}

/** Has a column in sight when it becomes the one to look at; afterwards everybody looks where they like. */
function useSight(frame: RefObject<HTMLElement | null>, widths: readonly number[], index: number): void {
  const ready = widths.length > 0 && widths[0] !== 0
  useEffect(() => {
    const element = frame.current
    if (!element || index < 0 || !ready) return
    const seen = { from: element.scrollLeft, wide: element.clientWidth - HEAD_PX }
    element.scrollTo({ left: intoView(seen, widths, index) })
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a column that grows moves nobody
  }, [index, ready, frame])
}
