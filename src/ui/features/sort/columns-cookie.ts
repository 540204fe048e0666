/** Of the cookie that the sheet's columns are kept in: the page comes with them from the server. */
export const COLUMNS_COOKIE = 'fernmoss-columns';
