import i18next from './i18n'

import { bench } from './bench.en'
import { office } from './office.en'

// the words of the desk, of the Bench and of settings' choices: not needed on the shift, so not in the first load
i18next.addResourceBundle('en', 'translation', { ...office, bench }, true, true)
