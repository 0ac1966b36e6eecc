// Unit tests of the interface in Debian's Chromium, without a window and without network of its own.
module.exports = (config) => {
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    reporters: ['dots'],
    browsers: ['Chromium'],
    customLaunchers: {
      Chromium: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    hostname: '127.0.0.1',
    listenAddress: '127.0.0.1',
    restartOnFileChange: false,
    // A busy machine may take its time.
    client: { jasmine: { timeoutInterval: 60_000 } },
    browserNoActivityTimeout: 180_000,
  });
};
