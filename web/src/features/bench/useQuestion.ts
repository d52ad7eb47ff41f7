import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'

import { addressOf, questionFrom } from './address'
import type { Family, Question } from './api'

const SETTLE_MS = 140
const REMEMBERED = 20

/** The question on a family's page. It lives in the address, so that it can be linked, and goes back with Back. */
export function useQuestion(family: Family) {
  const [search, setSearch] = useSearchParams()
  const address = search.toString()
  const read = questionFrom(family, search)
  const [question, setQuestion] = useState<Question>(read.question)
  const [settled, setSettled] = useState<Question>(read.question)
  const [preset, setPreset] = useState(read.preset)
  const [seen, setSeen] = useState(address)
  const [own, setOwn] = useState<readonly string[]>([])

  // An address that somebody else wrote (Back, a link) is taken over. Our own arrives later than it was written, with
  // typing in between: it is only noted, never read back over what has been typed since.
  if (address !== seen) {
    setSeen(address)
    if (!own.includes(address)) {
      setOwn([])
      setQuestion(read.question)
      setSettled(read.question)
      setPreset(read.preset)
    }
  }

  useEffect(() => {
    const timer = setTimeout(() => {
      setSettled(question)
      const next = new URLSearchParams(addressOf(family, preset, question))
      if (next.toString() !== address) {
        setOwn((before) => [...before.slice(-REMEMBERED), next.toString()])
        setSearch(next, { replace: true })
      }
    }, SETTLE_MS)
    return () => clearTimeout(timer)
  }, [question, preset, family, address, setSearch])

  function choose(index: number) {
    setPreset(index)
    setQuestion({ ...family.presets[index]?.question })
  }
  const change = (part: Question) => setQuestion((now) => ({ ...now, ...part }))
  return { question, settled, preset, home: family.presets[preset]?.question ?? {}, change, choose }
}
