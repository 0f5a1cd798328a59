process.env.CHROME_BIN ??= '/usr/bin/chromium';

module.exports = (config) => {
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    reporters: ['dots'],
    browsers: ['Chromium'],
    customLaunchers: {
      Chromium: {
        base: 'ChromiumHeadless',
        flags: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--disable-background-networking', '--window-size=1280,800'],
      },
    },
    // Wide limits: a busy machine is slow, not wrong.
    client: { jasmine: { random: true, timeoutInterval: 30_000 } },
    browserNoActivityTimeout: 120_000,
    restartOnFileChange: false,
  });
};
