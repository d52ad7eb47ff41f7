import { Dropdown } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import { setHeard, useHeard } from '../heard'
import { askKeys } from './Keys'
import { useManners, useSession, useSignOut } from '../session'
import { LANGUAGES, takeLanguage } from '../text/i18n'
import { setTheme, useTheme } from '../theme'
import { setUnit, type UnitChoice, useUnits } from '../units'

export function PersonMenu() {
  const { t, i18n } = useTranslation()
  const session = useSession()
  const signOut = useSignOut()
  const theme = useTheme()
  const { choice } = useUnits()
  const navigate = useNavigate()
  const manners = useManners()
  const heard = useHeard()
  const person = session.data?.person
  if (!person) return null
  const initials = person.name
    .split(' ')
    .map((part) => part[0])
    .join('')
    .slice(0, 2)
  const other = {
    temperature: choice.temperature === '°C' ? '°F' : '°C',
    length: choice.length === 'mm' ? 'in' : 'mm',
    mass: choice.mass === 'g' ? 'oz' : 'g',
  } as const
  function turn<Kind extends keyof UnitChoice>(kind: Kind, unit: UnitChoice[Kind]) {
    setUnit(kind, unit)
    manners.mutate({ [kind]: unit })
  }
  function speak(language: keyof typeof LANGUAGES) {
    void takeLanguage(language)
    manners.mutate({ language })
  }
  function turnGround() {
    const next = theme === 'dark' ? 'light' : 'dark'
    setTheme(next)
    manners.mutate({ theme: next })
  }
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="outline-primary" className="person">
        {initials}{' '}
        <span className="visually-hidden">{t('menu.me', { name: person.name, role: t(`roles.${person.role}`) })}</span>
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.ItemText className="quiet small">
          {t('menu.me', { name: person.name, role: t(`roles.${person.role}`) })}
        </Dropdown.ItemText>
        <Dropdown.Item onClick={() => void navigate('/switch')}>{t('menu.switch')}</Dropdown.Item>
        {person.role !== 'reviewer' && (
          <Dropdown.Item onClick={() => void navigate('/handover')}>{t('menu.handOver')}</Dropdown.Item>
        )}
        {person.role === 'lead' && (
          <Dropdown.Item onClick={() => void navigate('/household')}>{t('menu.household')}</Dropdown.Item>
        )}
        <Dropdown.Item onClick={() => turn('temperature', other.temperature)}>
          {t('menu.units', { unit: other.temperature })}
        </Dropdown.Item>
        <Dropdown.Item onClick={() => turn('length', other.length)}>
          {t('menu.lengths', { unit: other.length })}
        </Dropdown.Item>
        <Dropdown.Item onClick={() => turn('mass', other.mass)}>
          {t('menu.masses', { unit: other.mass === 'oz' ? 'oz, lb' : 'g, kg' })}
        </Dropdown.Item>
        <Dropdown.Item onClick={turnGround}>
          {t('menu.theme', { name: t(theme === 'dark' ? 'menu.light' : 'menu.dark').toLowerCase() })}
        </Dropdown.Item>
        <Dropdown.Item className="no-touch" onClick={askKeys}>
          {t('keys.title')} (?)
        </Dropdown.Item>
        <Dropdown.Item onClick={() => setHeard(!heard)}>{t(heard ? 'menu.mute' : 'menu.hear')}</Dropdown.Item>
        <Dropdown.Divider />
        {Object.entries(LANGUAGES).map(([key, name]) => (
          <Dropdown.Item
            key={key}
            lang={key}
            active={i18n.language === key}
            onClick={() => speak(key as keyof typeof LANGUAGES)}
          >
            {name}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        <Dropdown.Item onClick={() => signOut.mutate(undefined)}>{t('menu.out')}</Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  )
}
