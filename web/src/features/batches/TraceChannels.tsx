import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { useQuantities } from '../../shared/reference'
import { valueOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { TraceOptions } from './api'

type Channel = Schemas['Channel']

/** What each column of the file holds, in which unit, and from where to where it goes. */
export function Channels({
  channels,
  options,
  onChange,
}: {
  channels: readonly Channel[]
  options: TraceOptions
  onChange: (next: TraceOptions) => void
}) {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const { known } = useQuantities()
  return (
    <table className="table">
      <thead>
        <tr>
          <th>{t('trace.channel')}</th>
          <th>{t('trace.is')}</th>
          <th>{t('trace.unit')}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {channels.map((channel) => {
          const [low, high] = [Math.min(...channel.values), Math.max(...channel.values)]
          const range =
            channel.unit === '°C' ? [temp(low), temp(high)] : [valueOf(low, channel.unit), valueOf(high, channel.unit)]
          return (
            <tr key={channel.name}>
              <td className="strong">{channel.name}</td>
              <td>
                <Form.Select
                  aria-label={t('named', { name: t('trace.is'), said: channel.name })}
                  value={channel.quantity}
                  onChange={(event) =>
                    onChange({ ...options, quantities: { ...options.quantities, [channel.name]: event.target.value } })
                  }
                >
                  {[...known.map((each) => each.key), 'unknown'].map((quantity) => (
                    <option key={quantity} value={quantity}>
                      {t(`quantity.${quantity}` as never) as string}
                    </option>
                  ))}
                </Form.Select>
              </td>
              <td>
                {channel.unit === '°C' ? (
                  <Form.Select
                    aria-label={t('named', { name: t('trace.unit'), said: channel.name })}
                    value={options.units?.[channel.name] ?? ''}
                    onChange={(event) =>
                      onChange({
                        ...options,
                        units: { ...options.units, [channel.name]: (event.target.value || '°C') as '°C' | '°F' },
                      })
                    }
                  >
                    <option value="">{t('trace.sure')}</option>
                    <option value="°C">°C</option>
                    <option value="°F">°F</option>
                  </Form.Select>
                ) : (
                  channel.unit
                )}
              </td>
              <td className="quiet">{t('trace.range', { low: range[0], high: range[1] })}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
