#include "app/shell/recent_studies.h"

#include <QFileInfo>
#include <QSettings>

#include "app/model/study_model.h"

namespace app {
namespace {

constexpr int kMost = 8;

QString key() { return QStringLiteral("recent_studies"); }

}  // namespace

QStringList recentStudies() {
  QStringList there;
  for (const QString& path : QSettings().value(key()).toStringList())
    if (QFileInfo(path).isFile() && there.size() < kMost) there << path;
  return there;
}

QString recentTitle(const QString& path) {
  const QFileInfo file(path);
  QString title = tr("%1 — %2").arg(file.completeBaseName(), file.absolutePath());
  return toQt(title.toStdString()).replace(QLatin1Char('&'), QLatin1String("&&"));  // an & would mark a key
}

void rememberStudy(const QString& path) {
  const QString whole = QFileInfo(path).absoluteFilePath();
  QStringList paths = recentStudies();
  paths.removeAll(whole);
  paths.prepend(whole);
  QSettings().setValue(key(), QStringList(paths.mid(0, kMost)));
}

}  // namespace app
