import * as yup from 'yup';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** An id of a row that may be left out: any UUID as PostgreSQL writes it. Yup's own knows the versions 1 to 5 only; ours made from a name are of version 8 (RFC 9562). */
export const maybeUuid = () => yup.string().matches(UUID, '${path} is not an id');

/** The same where there must be one. */
export const uuid = () => maybeUuid().required();
