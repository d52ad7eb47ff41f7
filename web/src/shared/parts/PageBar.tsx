import { type ReactNode, useEffect } from 'react'

import { useBadge } from '../heard'
import { PersonMenu } from './PersonMenu'

/** The bar above a page: what it is, what it is about, and what to do here. */
export function PageBar({ title, sub, children }: { title: string; sub?: ReactNode; children?: ReactNode }) {
  const open = useBadge()
  useEffect(() => {
    document.title = `${open ? `(${open}) ` : ''}${title} · Brinefrost`
  }, [title, open])
  return (
    <header className="bar">
      <div className="titles">
        <h1>{title}</h1>
        {sub && <p className="quiet">{sub}</p>}
      </div>
      <div className="push row-line">
        {children}
        <PersonMenu />
      </div>
    </header>
  )
}
