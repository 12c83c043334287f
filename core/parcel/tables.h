#pragma once

#include <set>
#include <string>

#include "io/json_text.h"
#include "level/document.h"

namespace rubble::parcel {

// What of a level goes into tables. Comma-separated values follow RFC 4180: CRLF ends, quotes doubled.

/// Every element with its kind, place, heading and values.
std::string elements_csv(const Level& level);
io::Json elements_json(const Level& level);
/// Every item: its id, what it is called, what it is, its layer and where it stands.
std::string names_csv(const Level& level);
/// What is grey and is to be replaced by models: brushes by what they are called and how large they are, and
/// pieces by how often they stand.
std::string grey_csv(const Level& level);

/// Materials that are in use, with their measures and the files of their pictures.
std::string materials_csv(const Project& project, const std::set<MaterialId>& used);

} // namespace rubble::parcel
