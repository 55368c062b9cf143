/** How many days a share stays at most before it is looked at again (PCI DSS v4, 7.2.4: at least every six months). */
export const KEPT_DAYS = 180;
