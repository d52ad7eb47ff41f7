import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'

import { addressOf, questionFrom } from './address'
import type { Family, Question } from './api'

const SETTLE_MS = 140

/** The question on a family's page. It lives in the address, so that it can be linked, and goes back with Back. */
export function useQuestion(family: Family) {
  const [search, setSearch] = useSearchParams()
  const read = questionFrom(family, search)
  const [question, setQuestion] = useState<Question>(read.question)
  const [settled, setSettled] = useState<Question>(read.question)
  const [preset, setPreset] = useState(read.preset)
  const [written, setWritten] = useState(search.toString())

  // an address that somebody else wrote (Back, a link) is taken over
  const address = search.toString()
  if (address !== written) {
    setWritten(address)
    setQuestion(read.question)
    setSettled(read.question)
    setPreset(read.preset)
  }

  useEffect(() => {
    const timer = setTimeout(() => {
      setSettled(question)
      const next = addressOf(family, preset, question).slice(1)
      if (next !== address) {
        setWritten(new URLSearchParams(next).toString())
        setSearch(new URLSearchParams(next), { replace: true })
      }
    }, SETTLE_MS)
    return () => clearTimeout(timer)
  }, [question, preset, family, address, setSearch])

  function choose(index: number) {
    setPreset(index)
    setQuestion({ ...family.presets[index]?.question })
  }
  return { question, settled, preset, home: family.presets[preset]?.question ?? {}, setQuestion, choose }
}
