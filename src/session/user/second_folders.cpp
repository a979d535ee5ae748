#include "session/user/second_folders.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSaveFile>
#include <QSysInfo>

#include "session/user/user_files.h"

namespace session {
namespace {

QJsonObject foldersIn(const std::string& path) {
  if (!checkOwnFile(path)) return {};
  QFile file(QString::fromStdString(path));
  return file.open(QIODevice::ReadOnly) ? QJsonDocument::fromJson(file.readAll()).object() : QJsonObject();
}

}  // namespace

std::string SecondFolders::folderOf(const std::string& study) const {
  return foldersIn(path_).value(QString::fromStdString(study)).toString().toStdString();
}

core::Status SecondFolders::setFolder(const std::string& study, const std::string& folder) const {
  QJsonObject folders = foldersIn(path_);
  const QString key = QString::fromStdString(study);
  if (folder.empty())
    folders.remove(key);
  else
    folders.insert(key, QString::fromStdString(folder));
  if (auto own = makeOwnFile(path_); !own) return own;
  QSaveFile file(QString::fromStdString(path_));
  const QByteArray text = QJsonDocument(folders).toJson();
  if (file.open(QIODevice::WriteOnly) && file.write(text) == text.size() && file.commit()) return core::Done{};
  return core::Error{core::ErrorKind::Io, "the second folder cannot be remembered", path_,
                     "Check that you may write there, and the free space"};
}

std::string copyPath(const std::string& study, const std::string& folder) {
  // Studies of one name lie in many folders, on many machines: the copy's name tells them apart.
  const QFileInfo file(QString::fromStdString(study));
  const QByteArray whose = QSysInfo::machineUniqueId() + '\0' + file.absoluteFilePath().toUtf8();
  const QString mark = QString::fromLatin1(QCryptographicHash::hash(whose, QCryptographicHash::Sha256).toHex().left(8));
  return QDir(QString::fromStdString(folder))
      .filePath(QStringLiteral("%1-%2.copy.ironlever").arg(file.completeBaseName(), mark))
      .toStdString();
}

}  // namespace session
