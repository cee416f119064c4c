/** For so many days what was deleted is listed, and can be put back. */
export const DELETED_KEPT_DAYS = 30;
