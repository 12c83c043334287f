#pragma once

#include "check/span_facts.h"
#include "io/json_text.h"
#include "study/explorers.h"
#include "study/players.h"
#include "study/sides.h"
#include "study/what_if.h"

namespace rubble::io {

/// What became of players (docs/formats/players.schema.json): counts and whole milliseconds, so that reports
/// of parts add up to that of all.
Json crowd_report(const Level& level, const study::Crowd& crowd);
/// The same of players who do not know the way, with how often they were in each part of the ground.
Json exploration_report(const Level& level, const study::Exploration& exploration);
/// Reports of parts as one: the same as if all had been run in one go. An error where they are not of the
/// same question.
Result<Json> gathered(const std::vector<Json>& reports);

/// What is otherwise.
Json comparison_report(const Level& level, const study::Comparison& comparison);
/// The two sides of a level.
Json sides_report(const Level& level, const study::Sides& sides);
/// How far metrics may go.
Json limits_report(const Level& level, const std::vector<study::MetricLimit>& limits);
/// A span with all that is known of it.
Json to_json(const check::Span& span, const check::SpanFacts* facts = nullptr);

} // namespace rubble::io
