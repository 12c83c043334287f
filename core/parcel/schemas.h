#pragma once

#include <string>
#include <vector>

namespace rubble::parcel {

/// A schema of a kind of file, as it is published (docs/formats).
struct Schema {
    std::string name, text;
};
/// Those of the files that parcels and projects are made of.
const std::vector<Schema>& schemas_of_files();

} // namespace rubble::parcel
