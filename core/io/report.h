#pragma once

#include "check/span_facts.h"
#include "io/json_text.h"

namespace rubble::io {

/// What a check found, as JSON (docs/formats/check.schema.json). Witnesses are the recordings themselves.
/// With what is known of its spans, where that was asked for.
Json check_report(const Level& level, const check::CheckResult& result,
                  const std::vector<check::SpanFacts>* facts = nullptr);
/// Counts, size, layers, metrics and the built solid's facts.
Json info_report(const Project& project, const Level& level);

} // namespace rubble::io
