#include "formats/facts_cache.h"

#include "formats/kept_parts.h"

namespace yc {

FactsCache::FactsCache(std::shared_ptr<Timings> timings, std::shared_ptr<KeptParts> parts)
    : timings_(std::move(timings)), parts_(parts ? std::move(parts) : std::make_shared<KeptParts>()) {}

}  // namespace yc
