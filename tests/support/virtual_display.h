// An X display without a monitor, as long as this object lives.
#pragma once

#include <QProcess>
#include <string>

namespace support {

class VirtualDisplay {
 public:
  VirtualDisplay() {
    server_.start(QStringLiteral("Xvfb"),
                  {QStringLiteral("-displayfd"), QStringLiteral("1"), QStringLiteral("-screen"), QStringLiteral("0"),
                   QStringLiteral("640x480x24"), QStringLiteral("-nolisten"), QStringLiteral("tcp")});
    QByteArray number;
    while (!number.endsWith('\n') && server_.waitForReadyRead(20000)) number += server_.readAllStandardOutput();
    name_ = ":" + number.trimmed().toStdString();
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
  QProcess server_;
  std::string name_;
};

}  // namespace support
