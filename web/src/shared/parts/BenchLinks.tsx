import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import type { Schemas } from '../client/client'

/** The address of a Bench page that opens on a question: everything the question says. */
export function benchAddress({ family, question }: Schemas['Asked']): string {
  const params = new URLSearchParams()
  for (const [name, value] of Object.entries(question))
    params.set(name, typeof value === 'string' ? value : JSON.stringify(value))
  return `/bench/${family}?${params.toString()}`
}

/** The same figures on the Bench, to be turned this way and that. */
export function BenchLinks({ asked }: { asked: readonly Schemas['Asked'][] | undefined }) {
  const { t } = useTranslation()
  if (!asked?.length) return null
  return (
    <p className="bench-links no-print">
      <span className="quiet">{t('benchPages.same')}</span>{' '}
      {asked.map((each) => (
        <Link key={each.family} to={benchAddress(each)}>
          {t(`benchPages.${each.family}` as never)}
        </Link>
      ))}
    </p>
  )
}
