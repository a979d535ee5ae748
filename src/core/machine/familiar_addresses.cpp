#include "core/machine/familiar_addresses.h"

#include <map>
#include <set>
#include <string>
#include <vector>

namespace core {
namespace {

// What a device is recognised by when the numbers of the buses have moved.
std::string identityOf(const Capture& capture, const std::string& address) {
  std::string identity;
  for (const char* field : {"/vendor", "/device", "/subsystem_vendor", "/subsystem_device", "/class"})
    identity += capture.text("pci/" + address + field) + ":";
  return identity;
}

std::set<std::string> addressesOf(const Capture& capture) {
  std::set<std::string> addresses;
  for (const Fact& fact : capture.below("pci/")) addresses.insert(fact.name.substr(4, fact.name.find('/', 4) - 4));
  return addresses;
}

}  // namespace

Capture withFamiliarAddresses(const Capture& baseline, const Capture& changed) {
  const auto known = addressesOf(baseline);
  const auto here = addressesOf(changed);
  std::map<std::string, std::vector<std::string>> strangers;  // by identity
  for (const std::string& address : here)
    if (!known.contains(address)) strangers[identityOf(changed, address)].push_back(address);
  std::map<std::string, std::string> renamed;
  for (const std::string& address : known) {
    if (here.contains(address)) continue;
    const auto found = strangers.find(identityOf(baseline, address));
    if (found != strangers.end() && found->second.size() == 1) renamed[found->second.front()] = address;
  }
  if (renamed.empty()) return changed;
  Capture familiar = changed;
  familiar.facts.clear();
  for (Fact fact : changed.facts) {
    const std::string address = fact.name.starts_with("pci/") ? fact.name.substr(4, fact.name.find('/', 4) - 4) : "";
    if (const auto found = renamed.find(address); found != renamed.end())
      fact.name.replace(4, address.size(), found->second);
    familiar.put(std::move(fact));
  }
  return familiar;
}

}  // namespace core
