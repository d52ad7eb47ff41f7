import i18next from './i18n'

import { bench } from './bench.en'

// the Bench's words and the names of settings' choices: not needed on the shift, so not in the first load
i18next.addResourceBundle('en', 'translation', { bench }, true, true)
