export { domainCounts, repairAddress, severalAddresses } from './addresses.js';
export { type DuplicateGroup, findDuplicates } from './duplicates.js';
export { orderName, type PreferredName, readPreferred, readSurnameFirst } from './names.js';
export { type Offer, type OfferLine, offerPatch, type OfferWay } from './offer.js';
export { mendLookAlikes } from './scripts.js';
export { tidySpaces } from './spaces.js';
export { tidyOffers } from './tidy.js';
