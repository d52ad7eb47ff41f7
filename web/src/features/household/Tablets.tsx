import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'

import { answered, client } from '../../shared/client/client'
import { ProblemLine } from '../../shared/parts/ProblemLine'

/** How a tablet gets here: the address, and a code that its camera opens. */
export function Tablets() {
  const { t } = useTranslation()
  const found = useQuery({
    queryKey: ['tablets'],
    queryFn: () => answered(client.GET('/api/v1/household/tablets')),
    staleTime: Infinity,
  })
  if (!found.data) return <ProblemLine problem={found.error} again={() => void found.refetch()} />
  const { address, size, path } = found.data
  return (
    <section className="sheet" aria-label={t('household.tablets')}>
      <h2>{t('household.tablets')}</h2>
      {address ? (
        <div className="tablets">
          <svg viewBox={`0 0 ${size} ${size}`} role="img" aria-label={t('household.code', { address })}>
            <rect width={size} height={size} fill="#fff" />
            <path d={path} fill="#000" shapeRendering="crispEdges" />
          </svg>
          <div>
            <p className="strong mb-1">{address}</p>
            <p className="quiet mb-0">{t('household.codeHint')}</p>
          </div>
        </div>
      ) : (
        <p className="quiet mb-0">{t('household.alone')}</p>
      )}
    </section>
  )
}
