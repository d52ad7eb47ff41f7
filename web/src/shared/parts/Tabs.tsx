import { type KeyboardEvent, type ReactNode, useId, useRef } from 'react'

interface Props<Tab extends string> {
  tabs: readonly Tab[]
  chosen: Tab
  nameOf: (tab: Tab) => string
  onChoose: (tab: Tab) => void
  children: ReactNode
}

/** Tabs as the keyboard expects them: one stop, arrows from tab to tab, the panel named by its tab. */
export function Tabs<Tab extends string>({ tabs, chosen, nameOf, onChoose, children }: Props<Tab>) {
  const id = useId()
  const list = useRef<HTMLDivElement>(null)
  function turn(event: KeyboardEvent) {
    const to = {
      ArrowRight: tabs.indexOf(chosen) + 1,
      ArrowLeft: tabs.indexOf(chosen) - 1,
      Home: 0,
      End: tabs.length - 1,
    }[event.key]
    const next = to === undefined ? undefined : tabs[(to + tabs.length) % tabs.length]
    if (next === undefined) return
    event.preventDefault()
    onChoose(next)
    list.current?.querySelector<HTMLButtonElement>(`#${CSS.escape(`${id}-${next}`)}`)?.focus()
  }
  return (
    <>
      <div className="tabs" role="tablist" ref={list} onKeyDown={turn}>
        {tabs.map((tab) => (
          <button
            key={tab}
            id={`${id}-${tab}`}
            role="tab"
            type="button"
            aria-selected={tab === chosen}
            aria-controls={`${id}-panel`}
            tabIndex={tab === chosen ? 0 : -1}
            onClick={() => onChoose(tab)}
          >
            {nameOf(tab)}
          </button>
        ))}
      </div>
      <div id={`${id}-panel`} role="tabpanel" aria-labelledby={`${id}-${chosen}`} className="stack">
        {children}
      </div>
    </>
  )
}
