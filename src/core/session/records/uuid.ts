import * as yup from 'yup';

/** An id of a row: any UUID as PostgreSQL writes it. Yup's own knows the versions 1 to 5 only; ours made from a name are of version 8 (RFC 9562). */
export const uuid = () =>
  yup
    .string()
    .matches(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/, '${path} is not an id')
    .required();
