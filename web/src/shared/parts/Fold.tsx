import type { ReactNode } from 'react'

interface Props {
  title: string
  count?: number
  open?: boolean
  children: ReactNode
}

/** What is not needed now: its name and how much it holds, folded until somebody wants it; open on paper. */
export function Fold({ title, count, open = false, children }: Props) {
  return (
    <details className="fold-away" open={open}>
      <summary>
        {title}
        {count !== undefined && <span className="quiet"> {count}</span>}
      </summary>
      {children}
    </details>
  )
}
