// An X display without a monitor, as long as this object lives.
#pragma once

#include <unistd.h>

#include <QProcess>
#include <string>

namespace support {

class VirtualDisplay {
 public:
  // A number of this process's own: servers that look for a free one at the same moment can take the same. And no reset
  // when the last program leaves, as on a desktop: one that comes at that moment would be turned away.
  VirtualDisplay() : name_(":" + std::to_string(1000 + ::getpid() % 50000)) {
    server_.start(QStringLiteral("Xvfb"),
                  {QString::fromStdString(name_), QStringLiteral("-displayfd"), QStringLiteral("1"),
                   QStringLiteral("-screen"), QStringLiteral("0"), QStringLiteral("640x480x24"),
                   QStringLiteral("-nolisten"), QStringLiteral("tcp"), QStringLiteral("-noreset")});
    QByteArray is_ready;  // it prints its number when it listens
    while (!is_ready.endsWith('\n') && server_.waitForReadyRead(20000)) is_ready += server_.readAllStandardOutput();
  }
  ~VirtualDisplay() {
    server_.terminate();
    server_.waitForFinished(5000);
  }
  VirtualDisplay(const VirtualDisplay&) = delete;
  VirtualDisplay& operator=(const VirtualDisplay&) = delete;

  /// As $DISPLAY names it.
  [[nodiscard]] const std::string& name() const { return name_; }

 private:
  std::string name_;
  QProcess server_;
};

}  // namespace support
