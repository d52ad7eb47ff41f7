import { Component, useEffect, type ComponentType, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useLocation } from 'react-router'

type Load = () => Promise<{ default: ComponentType }>

/** A page that comes when somebody goes there; where it does not come, or breaks, a sentence and a way to try again. */
export function Place({ page: Page }: { page: ComponentType }) {
  const { pathname } = useLocation()
  return (
    <Boundary key={pathname}>
      <Page />
    </Boundary>
  )
}

/** Fetch the pages ahead, one after another, once what is looked at has come. */
export function useAhead(loads: Record<string, Load>, afterMs: number): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      void Object.values(loads).reduce(
        (before, load) => before.then(() => load().then(() => undefined, () => undefined)), // prettier-ignore
        Promise.resolve(),
      )
    }, afterMs)
    return () => clearTimeout(timer)
  }, [loads, afterMs])
}

interface BoundaryProps {
  children: ReactNode
}

/** React tells of a page that breaks in this way alone. */
export class Boundary extends Component<BoundaryProps, { broken: boolean }> {
  override state = { broken: false }

  static getDerivedStateFromError() {
    return { broken: true }
  }

  /** A page that did not come is asked for by loading anew; with no network that would lose what there is. */
  retry() {
    if (navigator.onLine) location.reload()
    else this.setState({ broken: false })
  }

  override render() {
    return this.state.broken ? <Broken again={() => this.retry()} /> : this.props.children
  }
}

function Broken({ again }: { again: () => void }) {
  const { t } = useTranslation()
  return (
    <div className="page" role="alert">
      <section className="sheet">
        <h2>{t('problem.page')}</h2>
        <p>{t('problem.pageHint')}</p>
        <div className="row-line">
          <Button onClick={again}>{t('problem.again')}</Button>
          <a className="btn btn-outline-primary" href="/shift">
            {t('places.shift')}
          </a>
        </div>
      </section>
    </div>
  )
}
