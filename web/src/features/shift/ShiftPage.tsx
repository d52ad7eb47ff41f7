import { useState } from 'react'
import { Button, ButtonGroup } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { hourOf, useNow, weekdayOf } from '../../shared/clock'
import { NumberPad } from '../../shared/parts/NumberPad'
import type { PadTarget } from '../../shared/parts/usePad'
import { PageBar } from '../../shared/parts/PageBar'
import { Waiting } from '../../shared/parts/Waiting'
import { useRole, useSession } from '../../shared/session'
import { heightOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import { useFresh } from '../../shared/useFresh'
import { StartBatchButton, useBatchesAhead } from '../batches'
import { useShift } from './api'
import { Lanes } from './Lanes'
import { NextColumn } from './NextColumn'

const HOUR = 3600
const FRESH_MS = 60_000 // asked for every half minute and told of what is written: older is from before this page

export function ShiftPage() {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const shift = useShift()
  const session = useSession()
  const now = useNow()
  const { mayLog } = useRole()
  const [target, setTarget] = useState<PadTarget | null>(null)
  const [span, setSpan] = useState<'day' | 'week'>('day')
  useBatchesAhead(shift.data?.lanes.map((lane) => lane.batch_id) ?? [])
  const seen = useFresh(shift, FRESH_MS)
  if (!seen) return <Waiting problem={shift.error} again={() => void shift.refetch()} />
  const nowS = now / 1000
  const [fromS, toS] = span === 'day' ? [nowS - 4.5 * HOUR, nowS + 3.5 * HOUR] : [nowS - 72 * HOUR, nowS + 96 * HOUR]
  const hour = hourOf(now)
  const part = hour < 5 ? 'night' : hour < 11 ? 'morning' : hour < 17 ? 'middle' : hour < 23 ? 'evening' : 'night'
  return (
    <>
      <PageBar
        title={t('shift.title', { day: weekdayOf(now), part: t(`shift.part.${part}`) })}
        sub={t('shift.sub', {
          site: seen.site,
          altitude: heightOf(seen.altitude_m),
          boiling: temp(session.data?.boiling_c ?? 100),
        })}
      >
        {mayLog && <StartBatchButton />}
      </PageBar>
      <div className="page shift">
        <section aria-label={t('shift.lanes')}>
          {seen.lanes.length ? (
            <Lanes
              lanes={seen.lanes}
              fromS={fromS}
              toS={toS}
              nowS={nowS}
              corner={<SpanChoice span={span} onChoose={setSpan} />}
            />
          ) : (
            <p className="sheet quiet">{t('shift.none')}</p>
          )}
        </section>
        <NextColumn items={seen.next} handover={seen.handover ?? null} onLog={setTarget} />
      </div>
      <p className="page caution">
        {t('caution')}{' '}
        <a href="/api/v1/shift/calendar.ics" download>
          {t('shift.calendar')}
        </a>
      </p>
      {target && <NumberPad target={target} onClose={() => setTarget(null)} />}
    </>
  )
}

function SpanChoice({ span, onChoose }: { span: 'day' | 'week'; onChoose: (span: 'day' | 'week') => void }) {
  const { t } = useTranslation()
  return (
    <ButtonGroup size="sm" className="span-choice">
      {(['day', 'week'] as const).map((each) => (
        <Button
          key={each}
          variant={span === each ? 'primary' : 'outline-primary'}
          aria-pressed={span === each}
          onClick={() => onChoose(each)}
        >
          {t(`shift.window.${each}`)}
        </Button>
      ))}
    </ButtonGroup>
  )
}
