// the page's storage
import 'fake-indexeddb/auto'
