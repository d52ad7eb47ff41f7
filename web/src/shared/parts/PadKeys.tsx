import { useTranslation } from 'react-i18next'

import { StateMark } from './StateMark'

const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '−', '0', '.']

/** The keys of a number. */
export function PadKeys({ onPress }: { onPress: (key: string) => void }) {
  return (
    <div className="pad-keys">
      {KEYS.map((key) => (
        <button type="button" key={key} onClick={() => onPress(key)}>
          {key}
        </button>
      ))}
    </div>
  )
}

/** What eyes tell: right, or not. */
export function LookKeys({ onSee }: { onSee: (right: boolean) => void }) {
  const { t } = useTranslation()
  return (
    <div className="look-keys">
      <button type="button" onClick={() => onSee(true)}>
        <StateMark state="pass" bare size={28} />
        {t('pad.right')}
      </button>
      <button type="button" onClick={() => onSee(false)}>
        <StateMark state="fail" bare size={28} />
        {t('pad.notRight')}
      </button>
    </div>
  )
}
