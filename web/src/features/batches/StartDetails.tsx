import { useQuery } from '@tanstack/react-query'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { answered, client, type Schemas } from '../../shared/client/client'
import { whenOf } from '../../shared/clock'
import { fieldOf } from '../../shared/fieldOf'
import { NumberInput } from '../../shared/parts/NumberInput'
import { StateMark } from '../../shared/parts/StateMark'
import { valueOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'

export type Offer = Schemas['StartOffer']
export type PartChoice = Schemas['PartEntry']
type Fit = Schemas['FitToday']

const THICKNESS = fieldOf('thickness_m', 'length', 0.001, 0.5, 'mm')
const START = fieldOf('start_c', 'temperature', -30, 100)
const WHAT = ['food', 'trim', 'bones', 'juices', 'fat', 'brine', 'whites'] as const
const FIT_STATE = { as_planned: 'pass', fits: 'would_meet', longer: 'ask', fails: 'would_fail' } as const

/** What is asked of a plan's new batch: which batches it could take of, what its pieces are planned to be. */
export function useOffer(planId: string) {
  return useQuery({
    queryKey: ['start', planId],
    queryFn: () => answered(client.GET('/api/v1/plans/{plan_id}/start', { params: { path: { plan_id: planId } } })),
    enabled: planId !== '',
  })
}

export interface Pieces {
  thickness_m: number | null
  start_c: number | null
}

const PROCESS_STATE = { true: 'would_meet', false: 'ask' } as const

/** The plan's times against today's pieces; asked as they are typed. */
export function useFit(planId: string, pieces: Pieces, packs: number) {
  const body = { ...pieces, packs: packs >= 1 && packs <= 500 ? Math.round(packs) : null }
  return useQuery({
    queryKey: ['fit', planId, body],
    queryFn: () =>
      answered(client.POST('/api/v1/plans/{plan_id}/fit', { params: { path: { plan_id: planId } }, body })),
    enabled: planId !== '',
    placeholderData: (before) => before,
  })
}

/** Today's thickest piece and how warm it goes in; the walk runs again with them. */
export function TodaysPieces({
  offer,
  pieces,
  fit,
  onChange,
}: {
  offer: Offer
  pieces: Pieces
  fit: Fit | undefined
  onChange: (pieces: Pieces) => void
}) {
  const { t } = useTranslation()
  const { temp } = useUnits()
  if (offer.thickness_m === null || offer.thickness_m === undefined) return null
  return (
    <fieldset>
      <legend className="small quiet">
        {t('batch.pieces', { thickness: valueOf(1000 * offer.thickness_m, 'mm'), start: temp(offer.start_c ?? 4) })}
      </legend>
      <div className="pad-facts">
        <NumberInput
          id="start-thickness"
          spec={THICKNESS}
          label={t('batch.thickest')}
          value={pieces.thickness_m}
          onChange={(thickness_m) => onChange({ ...pieces, thickness_m })}
          stacked
        />
        <NumberInput
          id="start-warm"
          spec={START}
          label={t('batch.goesIn')}
          value={pieces.start_c}
          onChange={(start_c) => onChange({ ...pieces, start_c })}
          stacked
        />
      </div>
      {fit && fit.state !== 'as_planned' && (
        <p className="row-line mb-0 mt-2" role="status">
          <StateMark state={FIT_STATE[fit.state]} bare size={20} />
          <span>{fit.sentence}</span>
        </p>
      )}
      {fit?.process.map((each) => (
        <p className="row-line mb-0 mt-2" role="status" key={each.step}>
          <StateMark state={PROCESS_STATE[`${each.inside}`]} bare size={20} />
          <span>{each.sentence}</span>
        </p>
      ))}
    </fieldset>
  )
}

/** Food comes of what is done; by-products of anything. */
function givers(offer: Offer, what: PartChoice['what']) {
  return what === 'food' ? offer.batches.filter((each) => each.done) : offer.batches
}

/** What goes in of other batches, with the lot of what was bought. */
export function PartsInput({
  offer,
  parts,
  onChange,
}: {
  offer: Offer
  parts: PartChoice[]
  onChange: (parts: PartChoice[]) => void
}) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const change = (index: number, over: Partial<PartChoice>) =>
    onChange(parts.map((part, at) => (at === index ? { ...part, ...over } : part)))
  return (
    <fieldset>
      <legend className="small quiet">
        {offer.made_here.length
          ? t('batch.takes', { what: offer.made_here.map(words).join(', ') })
          : t('batch.takesAny')}
      </legend>
      {parts.map((part, index) => (
        <div className="part-line" key={index}>
          <Form.Select
            aria-label={t('batch.partWhat')}
            value={part.what}
            onChange={(event) => {
              const what = event.target.value as PartChoice['what']
              const those = givers(offer, what)
              const batch = those.some((each) => each.batch === part.batch) ? part.batch : (those[0]?.batch ?? '')
              change(index, { what, batch })
            }}
          >
            {WHAT.map((each) => (
              <option key={each} value={each}>
                {t(`batch.what_${each}`)}
              </option>
            ))}
          </Form.Select>
          <Form.Select
            aria-label={t('batch.partOf')}
            value={part.batch}
            onChange={(event) => change(index, { batch: event.target.value })}
          >
            {givers(offer, part.what).map((each) => (
              <option key={each.batch} value={each.batch}>
                {each.code} {each.name}
                {each.gone_by ? `, ${t('batch.goneBy', { when: whenOf(each.gone_by) })}` : ''}
              </option>
            ))}
          </Form.Select>
          <Button variant="link" onClick={() => onChange(parts.filter((_, at) => at !== index))}>
            {t('batch.removePart')}
          </Button>
        </div>
      ))}
      <Button
        variant="outline-primary"
        size="sm"
        disabled={offer.batches.length === 0}
        onClick={() => {
          const what = offer.made_here.length ? 'trim' : 'food'
          onChange([...parts, { batch: givers(offer, what)[0]?.batch ?? '', what }])
        }}
      >
        {t('batch.addPart')}
      </Button>
    </fieldset>
  )
}

/** Supplier's lots, an ingredient a line; empty ones are not kept. */
export function LotsInput({
  offer,
  lots,
  onChange,
}: {
  offer: Offer
  lots: Record<string, string>
  onChange: (lots: Record<string, string>) => void
}) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <details>
      <summary>{t('batch.lots')}</summary>
      <div className="pad-facts mt-2">
        {offer.ingredients.map((name, index) => (
          <Form.Group key={name} controlId={`lot-${index}`}>
            <Form.Label>{words(name)}</Form.Label>
            <Form.Control
              value={lots[name] ?? ''}
              maxLength={60}
              onChange={(event) => onChange({ ...lots, [name]: event.target.value })}
            />
          </Form.Group>
        ))}
      </div>
    </details>
  )
}
