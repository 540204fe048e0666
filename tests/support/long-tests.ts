// Real processes take their time, and the machine may be busy.
jest.setTimeout(180_000);

// While a file runs programs to their end nothing is read from kept connections: that the server has closed one is noticed before it is used again.
beforeAll(() => new Promise((resolve) => setTimeout(resolve, 100)));
