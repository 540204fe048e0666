// Real processes take their time, and the machine may be busy.
jest.setTimeout(180_000);
