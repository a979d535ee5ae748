#pragma once

#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <string>

#include "support/test_folder.h"

namespace support {

struct Outcome {
  int code = 0;
  std::string out;
  std::string err;
};

/// The programs as a person starts them, in a folder of their own.
class ProgramsTest : public testing::Test {
 protected:
  ProgramsTest() {
    environment_.insert(QStringLiteral("XDG_STATE_HOME"), QString::fromStdString(folder_ / "state"));
    environment_.insert(QStringLiteral("XDG_DATA_HOME"), QString::fromStdString(folder_ / "data"));
    environment_.insert(QStringLiteral("XDG_CONFIG_HOME"), QString::fromStdString(folder_ / "config"));
  }
  void start(QProcess& process, const QString& program, const QStringList& arguments) const {
    QProcessEnvironment environment = environment_;
    if (!language_.isEmpty()) environment.insert(QStringLiteral("LC_ALL"), language_);
    process.setProcessEnvironment(environment);
    process.setWorkingDirectory(QString::fromStdString(folder_.path()));
    process.start(QCoreApplication::applicationDirPath() + QLatin1Char('/') + program, arguments);
    ASSERT_TRUE(process.waitForStarted()) << program.toStdString();
  }
  Outcome run(const QString& program, const QStringList& arguments, const std::string& input = "") const {
    QProcess process;
    start(process, program, arguments);
    process.write(input.data(), static_cast<qint64>(input.size()));
    process.closeWriteChannel();
    EXPECT_TRUE(process.waitForFinished(240000));
    return {process.exitCode(), process.readAllStandardOutput().toStdString(),
            process.readAllStandardError().toStdString()};
  }
  Outcome cli(const QStringList& arguments, const std::string& input = "") const {
    return run(QStringLiteral("iron-lever-cli"), arguments, input);
  }
  /// "new" and the whole "run" of a study file named `name`.
  void runExample(const QString& design, const QString& name) const {
    ASSERT_EQ(cli({QStringLiteral("new"), name, QStringLiteral("--design"), design}).code, 0);
    const Outcome outcome = cli({QStringLiteral("run"), name, QStringLiteral("--approve"), QStringLiteral("--quiet")});
    ASSERT_EQ(outcome.code, 0) << outcome.err;
  }
  QJsonObject finding(const QString& name) const {
    const Outcome outcome = cli({QStringLiteral("findings"), name, QStringLiteral("--json")});
    return QJsonDocument::fromJson(QByteArray::fromStdString(outcome.out))[QStringLiteral("cases")]
        .toArray()
        .at(0)
        .toObject();
  }
  static QString example(const char* name) {
    return QStringLiteral(IRON_LEVER_SOURCE "/examples/") + QLatin1String(name);
  }

  TestFolder folder_;
  QProcessEnvironment environment_ = QProcessEnvironment::systemEnvironment();
  QString language_;  ///< of the programs that are started; empty: the test's own
};

}  // namespace support
