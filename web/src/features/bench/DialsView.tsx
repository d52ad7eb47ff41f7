import { useTranslation } from 'react-i18next'

import { StateMark } from '../../shared/parts/StateMark'
import { useUnits } from '../../shared/units'
import type { Picture } from './api'

type DialPicture = Extract<Picture, { kind: 'dials' }>

const FULL = 300
const MOST = 400

/** Clocks that fill. For exposure full is used up; for a target full is reached. */
export function DialsView({ picture, full }: { picture: DialPicture; full: 'used' | 'reached' }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <ul className="dials">
      {picture.dials.map((dial) => {
        const over = dial.used > 1
        return (
          <li key={dial.name}>
            <div className="dial-head">
              <StateMark state={dial.state} bare size={18} />
              <span className="strong">{words(dial.name)}</span>
              <span className="push strong">{percent(dial.used)}</span>
            </div>
            <svg
              className="dial"
              viewBox={`0 0 ${MOST} 16`}
              preserveAspectRatio="none"
              role="img"
              aria-label={t('bench.filled', { name: dial.name, share: percent(dial.used) })}
            >
              <rect x="0" y="3" width={MOST} height="10" className="dial-back" />
              <rect
                x="0"
                y="3"
                width={Math.min(dial.used * FULL, MOST)}
                height="10"
                className={full === 'used' && over ? 'dial-over' : 'dial-fill'}
              />
              <line x1={FULL} x2={FULL} y1="0" y2="16" className="dial-mark" />
            </svg>
            <p className="quiet small">{words(dial.words)}</p>
          </li>
        )
      })}
    </ul>
  )
}

function percent(share: number): string {
  return share > 99 ? '> 9900 %' : `${Math.round(share * 100)} %`
}
