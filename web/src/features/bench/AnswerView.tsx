import { useTranslation } from 'react-i18next'

import { StateMark } from '../../shared/parts/StateMark'
import { WorkingView } from '../../shared/parts/WorkingView'
import { useUnits } from '../../shared/units'
import type { Answer, Picture } from './api'
import { CurveView } from './CurveView'
import { DialsView } from './DialsView'
import { Figures } from './Figures'
import { GroundView } from './GroundView'
import { MapView } from './MapView'
import { ScalesView } from './ScalesView'
import { useNames } from './names'

interface Props {
  answer: Answer
  family: string
  stale: boolean
  onMove: (change: Record<string, number>) => void
}

const FAILS = ['would_fail', 'fail']

/** The answer: verdict and fix first, then the numbers, the pictures, the other schools, the working. */
export function AnswerView({ answer, family, stale, onMove }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const names = useNames(family)
  return (
    <div className={stale ? 'stack stale' : 'stack'}>
      <Verdict answer={answer} family={family} />
      {answer.pictures.map((picture) => (
        <section className="sheet" key={picture.kind + picture.title}>
          <h2>{names.picture(picture.title)}</h2>
          <PictureView picture={picture} family={family} onMove={onMove} />
        </section>
      ))}
      {answer.schools.length > 0 && <Schools schools={answer.schools} />}
      {answer.tables.map((table) => (
        <section className="sheet" key={table.title}>
          <h2>{words(table.title)}</h2>
          <TableView table={table} />
        </section>
      ))}
      <section className="sheet">
        <h2>{t('plans.workings')}</h2>
        {answer.workings.map((working, index) => (
          <div key={working.title + String(index)} className="mb-3">
            <h3>{words(working.title)}</h3>
            <WorkingView working={working} />
          </div>
        ))}
      </section>
    </div>
  )
}

/** What it comes to, why, what to do, and the numbers. */
function Verdict({ answer, family }: { answer: Answer; family: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <section className="sheet bench-verdict" aria-live="polite">
      <div className="verdict-big">
        <StateMark state={answer.state} bare size={34} />
        <div>
          <p className={FAILS.includes(answer.state) ? 'hot' : ''}>{words(answer.sentence)}</p>
          {answer.reason && <div>{words(answer.reason)}</div>}
          {answer.advisory && <blockquote className="advisory">{answer.advisory}</blockquote>}
        </div>
      </div>
      {answer.fixes.length > 0 && (
        <>
          <h3 className="mt-3">{t('bench.whatToDo')}</h3>
          <ul className="needs">
            {answer.fixes.map((fix) => (
              <li key={fix}>{words(fix)}</li>
            ))}
          </ul>
        </>
      )}
      <Figures figures={answer.figures} family={family} />
      {answer.caution && <p className="caution">{words(answer.caution)}</p>}
    </section>
  )
}

function Schools({ schools }: { schools: Answer['schools'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <section className="sheet">
      <h2>{t('bench.schools')}</h2>
      <ul className="limits">
        {schools.map((school) => (
          <li key={school.school} className="pb-2">
            <div className="limit-line two-columns">
              <StateMark state={school.state} />
              <div>
                <p className="strong">{words(school.school)}</p>
                <p>{words(school.sentence)}</p>
              </div>
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}

function TableView({ table }: { table: Answer['tables'][number] }) {
  const { words } = useUnits()
  return (
    <div className="table-responsive" tabIndex={0} role="region" aria-label={words(table.title)}>
      <table className="table table-sm">
        {table.head.some(Boolean) && (
          <thead>
            <tr>
              {table.head.map((head, index) => (
                <th key={head + String(index)} scope="col">
                  {words(head)}
                </th>
              ))}
            </tr>
          </thead>
        )}
        <tbody>
          {table.rows.map((row) => (
            <tr key={row.join('|')}>
              {row.map((cell, index) => (
                <td key={cell + String(index)} className={index === 0 ? 'strong' : ''}>
                  {words(cell)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function PictureView({ picture, family, onMove }: { picture: Picture; family: string; onMove: Props['onMove'] }) {
  switch (picture.kind) {
    case 'curve':
      return <CurveView picture={picture} family={family} />
    case 'map':
      return <MapView picture={picture} family={family} onMove={onMove} />
    case 'ground':
      return <GroundView picture={picture} />
    case 'scales':
      return <ScalesView picture={picture} />
    case 'dials':
      return <DialsView picture={picture} full={picture.title === 'targets' ? 'reached' : 'used'} />
  }
}
