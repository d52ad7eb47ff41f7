import '../../shared/text/laterWords'

import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Navigate, useParams } from 'react-router'

import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { Waiting } from '../../shared/parts/Waiting'
import { dayOf, nowMs, timeOf, zone } from '../../shared/clock'
import { useRole, useSession } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { AnswerView } from './AnswerView'
import { type Answer, type Family, useAnswer, useFamilies } from './api'
import { KeepDialog } from './KeepDialog'
import { QuestionForm } from './QuestionForm'
import { SendDialog } from './SendDialog'
import { useQuestion } from './useQuestion'

/** One page a family: what is asked on the left, the answer on the right. */
export function FamilyPage() {
  const { family: key } = useParams()
  const families = useFamilies()
  if (!families.data) return <Waiting problem={families.error} again={() => void families.refetch()} />
  const family = families.data.find((each) => each.key === key)
  return family ? <FamilyBench key={family.key} family={family} /> : <Navigate to="/bench" replace />
}

function FamilyBench({ family }: { family: Family }) {
  const asking = useQuestion(family)
  const { settled, preset, change } = asking
  const answer = useAnswer(family.key, settled)
  const [dialog, setDialog] = useState<'keep' | 'send' | null>(null)
  const close = () => setDialog(null)
  return (
    <>
      <Bar family={family} onOpen={setDialog} />
      <PrintedWhere />
      <div className="page bench">
        {answer.data && !answer.error && <Said answer={answer.data} />}
        <Ask family={family} asking={asking} />
        <div className="bench-answer">
          <ProblemLine problem={answer.error} again={() => void answer.refetch()} />
          {!answer.data && !answer.error && <Proving />}
          {answer.data && !answer.error && (
            <AnswerView answer={answer.data} family={family.key} stale={answer.isPlaceholderData} onMove={change} />
          )}
        </div>
      </div>
      {dialog === 'send' && <SendDialog question={settled} onClose={close} />}
      {dialog === 'keep' && (
        <KeepDialog
          family={family.key}
          suggestion={family.presets[preset]?.words ?? ''}
          question={settled}
          onClose={close}
        />
      )}
    </>
  )
}

/** The page's name and what can be done with its question. */
function Bar({ family, onOpen }: { family: Family; onOpen: (dialog: 'keep' | 'send') => void }) {
  const { t } = useTranslation()
  const { isLead } = useRole()
  const [copied, setCopied] = useState(false)
  function copy() {
    // without a secure address there is no clipboard: show the link to copy by hand
    if (window.isSecureContext) void navigator.clipboard.writeText(window.location.href).then(() => setCopied(true))
    else window.prompt(t('bench.link'), window.location.href)
  }
  return (
    <PageBar title={t(`benchPages.${family.key}` as never)} sub={t(`bench.subs.${family.key}` as never)}>
      <Button variant="link" className="no-print" onClick={copy}>
        {copied ? t('bench.copied') : t('bench.link')}
      </Button>
      <Button variant="link" className="no-print" onClick={() => window.print()}>
        {t('bench.print')}
      </Button>
      {isLead && family.key === 'heat' && (
        <Button variant="link" className="no-print" onClick={() => onOpen('send')}>
          {t('bench.send')}
        </Button>
      )}
      <Button variant="outline-primary" className="no-print" onClick={() => onOpen('keep')}>
        {t('bench.keep')}
      </Button>
    </PageBar>
  )
}

/** Where the question stands above its answer, the verdict stays in sight; readers hear it from the answer itself. */
function Said({ answer }: { answer: Answer }) {
  const { words } = useUnits()
  return (
    <p className="bench-said" aria-hidden="true">
      <StateMark state={answer.state} bare size={22} />
      <span>{words(answer.sentence)}</span>
    </p>
  )
}

function Proving() {
  const { t } = useTranslation()
  return (
    <p role="status" className="quiet">
      {t('plans.proving')}
    </p>
  )
}

function Ask({ family, asking }: { family: Family; asking: ReturnType<typeof useQuestion> }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { question, preset, home, change, choose } = asking
  return (
    <aside className="sheet bench-ask">
      <Form.Group controlId="bench-preset">
        <Form.Label>{t('bench.startFrom')}</Form.Label>
        <Form.Select value={preset} onChange={(event) => choose(Number(event.target.value))}>
          {family.presets.map((each, index) => (
            <option key={each.key} value={index}>
              {words(each.words)}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <QuestionForm key={preset} family={family} home={home} question={question} onChange={change} />
    </aside>
  )
}

/** On paper alone: whose kitchen, who asked, when, and the address that opens the question again. */
function PrintedWhere() {
  const session = useSession().data
  const now = `${dayOf(nowMs())}, ${timeOf(nowMs())} ${zone()}`
  const said = [session?.site, session?.person?.name, now].filter(Boolean).join(' · ')
  return (
    <p className="page quiet print-only">
      {said}
      <br />
      {window.location.href}
    </p>
  )
}
