export { domainCounts, repairAddress, severalAddresses } from './addresses.js';
export { findDuplicates, type DuplicateGroup } from './duplicates.js';
export { orderName, readPreferred, readSurnameFirst, type PreferredName } from './names.js';
export { offerPatch, type Offer, type OfferLine, type OfferWay } from './offer.js';
export { mendLookAlikes } from './scripts.js';
export { tidySpaces } from './spaces.js';
export { tidyOffers } from './tidy.js';
