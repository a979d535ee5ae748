#include "bench/vulkan_drivers.h"

#include <QCoreApplication>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>

namespace bench {

std::vector<core::Fact> vulkanDriverFacts() {
  constexpr int kPatienceMs = 10000;
  QProcess probe;
  const QString program = QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever-probe");
  probe.start(program, {QStringLiteral("copy"), QStringLiteral("--list")});
  if (!probe.waitForFinished(kPatienceMs)) {
    probe.kill();
    probe.waitForFinished(kPatienceMs);
    return {};
  }
  std::vector<core::Fact> facts;
  const QJsonDocument said = QJsonDocument::fromJson(probe.readAllStandardOutput());
  for (const QJsonValue& device : said[QStringLiteral("devices")].toArray()) {
    const QString address = device[QStringLiteral("pci")].toString();
    const QString known_as = address.isEmpty() ? device[QStringLiteral("name")].toString() : address;
    core::Fact fact;
    fact.name =
        "graphics/" + QString(known_as).replace(QLatin1Char('/'), QLatin1Char(' ')).toStdString() + "/vulkan_driver";
    fact.value = device[QStringLiteral("driver")].toString().toStdString();
    fact.source = "Vulkan";
    if (!fact.value.empty()) facts.push_back(std::move(fact));
  }
  return facts;
}

}  // namespace bench
