import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { whenOf } from '../../shared/clock'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Batch, useAnswerDoubt, useRecall } from './api'
import { SigningFields, useSigning } from './signing'

/** What became of a batch beside its readings: to be binned, recalled, read with what was found off. */
export function Standing({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { mayDecide } = useRole()
  const recall = useRecall(batch.batch_id)
  const stands = useAnswerDoubt(batch.batch_id)
  const mayRecall = mayDecide && batch.closed?.decision === 'release' && !batch.recalled
  return (
    <>
      {batch.to_discard && (
        <p className="sheet deviation open deviation-title" role="alert">
          {t('batch.binIt')}
        </p>
      )}
      {batch.recalled && (
        <p className="sheet deviation open deviation-title" role="alert">
          {t('batch.recalled', { ...batch.recalled, when: whenOf(batch.recalled.at) })}
        </p>
      )}
      {batch.validated.map((each) => (
        <p key={each.step} className="quiet mb-2">
          {words(each.sentence)}
        </p>
      ))}
      {batch.in_doubt.length > 0 && (
        <section className="sheet deviation open">
          {batch.in_doubt.map((each) => (
            <p key={each} className="deviation-title">
              {words(each)}
            </p>
          ))}
          {mayDecide && <Signed label={t('batch.stands')} write={stands} />}
        </section>
      )}
      {batch.doubt_answered && (
        <p className="quiet">{t('batch.stood', { ...batch.doubt_answered, when: whenOf(batch.doubt_answered.at) })}</p>
      )}
      {mayRecall && <Signed label={t('batch.recall')} write={recall} />}
    </>
  )
}

/** Something that wants a reason and the password: folded until it is wanted. */
function Signed({ label, write }: { label: string; write: ReturnType<typeof useRecall> }) {
  const [open, setOpen] = useState(false)
  const signing = useSigning()
  if (!open)
    return (
      <Button variant="link" className="fold" onClick={() => setOpen(true)}>
        {label}
      </Button>
    )
  function submit(event: FormEvent) {
    event.preventDefault()
    write.mutate(signing.given, { onSuccess: () => setOpen(false) })
  }
  return (
    <Form onSubmit={submit} className="sheet stack tight" aria-label={label}>
      <SigningFields signing={signing} />
      <ProblemLine problem={write.error} />
      <Button type="submit" disabled={write.isPending}>
        {label}
      </Button>
    </Form>
  )
}
