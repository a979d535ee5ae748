#include "session/user/file_sum.h"

#include <QCryptographicHash>
#include <QFile>
#include <algorithm>
#include <array>

namespace session {

using core::Error;
using core::ErrorKind;

core::Result<std::string> sha256Of(const std::string& path, std::uintmax_t without_last) {
  QFile file(QString::fromStdString(path));
  if (!file.open(QIODevice::ReadOnly))
    return Error{file.exists() ? ErrorKind::Io : ErrorKind::Missing, "the file cannot be read", path,
                 "Check its name and that you may read it"};
  QCryptographicHash hash(QCryptographicHash::Sha256);
  std::array<char, 1 << 16> piece{};
  for (qint64 left = file.size() - static_cast<qint64>(without_last); left > 0;) {
    const qint64 got = file.read(piece.data(), std::min<qint64>(left, piece.size()));
    if (got <= 0) return Error{ErrorKind::Io, "the file cannot be read to its end", path, "Copy it anew"};
    hash.addData(QByteArrayView(piece.data(), got));
    left -= got;
  }
  return hash.result().toHex().toStdString();
}

std::string sha256OfBytes(std::string_view bytes) {
  return QCryptographicHash::hash(QByteArray::fromRawData(bytes.data(), static_cast<qsizetype>(bytes.size())),
                                  QCryptographicHash::Sha256)
      .toHex()
      .toStdString();
}

}  // namespace session
