import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

interface Props {
  pages: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => Promise<unknown> }
}

/** The way on, where a list goes on. */
export function MoreButton({ pages }: Props) {
  const { t } = useTranslation()
  if (!pages.hasNextPage) return null
  return (
    <Button variant="outline-primary" disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
      {t('find.more')}
    </Button>
  )
}
