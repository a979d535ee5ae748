// A Wayland compositor without a display, as long as this object lives.
#pragma once

#include <QFile>
#include <QProcess>
#include <QThread>

#include "support/test_folder.h"

namespace support {

class HeadlessCompositor {
 public:
  HeadlessCompositor() {
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert(QStringLiteral("XDG_RUNTIME_DIR"), QString::fromStdString(runtime_.path()));
    server_.setProcessEnvironment(environment);
    server_.start(QStringLiteral("weston"),
                  {QStringLiteral("--backend=headless-backend.so"), QStringLiteral("--socket=") + QLatin1String(kName),
                   QStringLiteral("--idle-time=0"), QStringLiteral("--no-config")});
    constexpr int kMostWaits = 200;
    for (int i = 0; i < kMostWaits && !QFile::exists(QString::fromStdString(runtime_ / kName)); ++i)
      QThread::msleep(50);
  }
  ~HeadlessCompositor() {
    server_.terminate();
    server_.waitForFinished(5000);
  }
  HeadlessCompositor(const HeadlessCompositor&) = delete;
  HeadlessCompositor& operator=(const HeadlessCompositor&) = delete;

  /// What a program needs to find it.
  void tell(QProcessEnvironment& environment) const {
    environment.insert(QStringLiteral("XDG_RUNTIME_DIR"), QString::fromStdString(runtime_.path()));
    environment.insert(QStringLiteral("WAYLAND_DISPLAY"), QLatin1String(kName));
  }

 private:
  static constexpr const char* kName = "iron-lever-test";
  TestFolder runtime_;
  QProcess server_;
};

}  // namespace support
