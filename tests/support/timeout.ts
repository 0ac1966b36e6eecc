// Real databases and builds take their time on a busy machine.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 600_000;
