#include "session/second_copies.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSaveFile>

namespace session {
namespace {

QJsonObject foldersIn(const std::string& path) {
  QFile file(QString::fromStdString(path));
  return file.open(QIODevice::ReadOnly) ? QJsonDocument::fromJson(file.readAll()).object() : QJsonObject();
}

}  // namespace

std::string SecondCopies::folderOf(const std::string& study) const {
  return foldersIn(path_).value(QString::fromStdString(study)).toString().toStdString();
}

core::Status SecondCopies::setFolder(const std::string& study, const std::string& folder) const {
  QJsonObject folders = foldersIn(path_);
  const QString key = QString::fromStdString(study);
  if (folder.empty())
    folders.remove(key);
  else
    folders.insert(key, QString::fromStdString(folder));
  QDir().mkpath(QFileInfo(QString::fromStdString(path_)).absolutePath());
  QSaveFile file(QString::fromStdString(path_));
  const QByteArray text = QJsonDocument(folders).toJson();
  if (file.open(QIODevice::WriteOnly) && file.write(text) == text.size() && file.commit()) return core::Done{};
  return core::Error{core::ErrorKind::Io, "the second folder cannot be remembered", path_,
                     "Check that you may write there, and the free space"};
}

std::string copyPath(const std::string& study, const std::string& folder) {
  const QString name = QFileInfo(QString::fromStdString(study)).completeBaseName();
  return QDir(QString::fromStdString(folder)).filePath(name + QStringLiteral(".copy.ironlever")).toStdString();
}

}  // namespace session
