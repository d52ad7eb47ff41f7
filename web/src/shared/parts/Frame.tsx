import { Suspense, useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { NavLink, Outlet, useLocation } from 'react-router'

import { useInstruments } from '../session'
import { Alarm } from './Alarm'
import { AwayBar } from './AwayBar'
import { Keys } from './Keys'
import { LedgerAlarm } from './LedgerAlarm'
import { OutboxBar } from './OutboxBar'
import { Waiting } from './Waiting'

const PLACES = ['shift', 'batches', 'plans', 'bench', 'ledger'] as const

/** The rail of places and the page beside it. */
export function Frame() {
  const { t } = useTranslation()
  const content = useRef<HTMLElement>(null)
  const { pathname } = useLocation()
  const [arrived] = useState(pathname)
  useEffect(() => {
    // a page that is opened is read from its top
    if (pathname !== arrived) content.current?.focus({ preventScroll: true })
  }, [pathname, arrived])
  useInstruments() // fetched ahead, so that the first number pad has its instrument
  return (
    <div className="frame">
      <a
        className="skip"
        href="#content"
        onClick={(event) => {
          event.preventDefault()
          content.current?.focus()
        }}
      >
        {t('menu.skip')}
      </a>
      <nav className="rail" aria-label={t('menu.places')}>
        <div className="rail-mark">
          <svg width="36" height="36" viewBox="0 0 64 64" aria-hidden="true">
            <path d="M14 18h36M14 34h36M14 50h20" className="logo-line" />
            <circle cx="48" cy="50" r="5" fill="#fff" />
          </svg>
        </div>
        {PLACES.map((place) => (
          <NavLink key={place} to={`/${place}`}>
            {t(`places.${place}`)}
          </NavLink>
        ))}
      </nav>
      <main id="content" ref={content} tabIndex={-1}>
        <Alarm />
        <AwayBar />
        <OutboxBar />
        <LedgerAlarm />
        <Suspense fallback={<Waiting />}>
          <Outlet />
        </Suspense>
      </main>
      <Keys />
    </div>
  )
}
