#include <gtest/gtest.h>

#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <cstdio>

#include "app/question/number_field.h"
#include "app/shell/theme.h"
#include "support/guarded_application.h"

// Tests that drive the real window, without a display and away from the person's own settings.
int main(int argc, char** argv) {
  testing::InitGoogleTest(&argc, argv);
  if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  const QTemporaryDir settings;
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
  support::GuardedApplication application(argc, argv);
  app::keepPlainNumbers();
  QApplication::setApplicationName(QStringLiteral("iron-lever-tests"));
  app::applyTheme(application, app::ThemeName::Paper);
  const int failed = RUN_ALL_TESTS();
  if (application.fault()) std::fprintf(stderr, "thrown: %s\n", application.fault()->sentence().c_str());
  return failed != 0 || application.fault() ? 1 : 0;
}
