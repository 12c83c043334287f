#pragma once

#include <array>
#include <filesystem>
#include <vector>

#include "io/names.h"
#include "level/kits/kit.h"

namespace rubble::io {

/// The kit format (docs/formats/kit.schema.json).
inline constexpr int k_kit_format = 1;

/// Kinds of collision by their names in files.
inline constexpr std::array k_piece_collisions{
    Name<PieceCollisionKind>{"none", PieceCollisionKind::none},
    Name<PieceCollisionKind>{"box", PieceCollisionKind::box},
    Name<PieceCollisionKind>{"hull", PieceCollisionKind::hull},
    Name<PieceCollisionKind>{"faces", PieceCollisionKind::faces},
    Name<PieceCollisionKind>{"brushes", PieceCollisionKind::brushes},
    Name<PieceCollisionKind>{"node", PieceCollisionKind::node}};

/// Reads a kit without the models of its pieces; `place` names the file in messages.
Result<Kit> kit_from_text(const std::string& text, const std::string& place);
/// What is written of a kit.
std::string text_of(const Kit& kit);
/// What is written of one piece.
Json to_json(const Piece& piece);
/// A joint as it stands in files. @{
Joint read_joint(Reader& in);
Json to_json(const Joint& joint);
/// @}

/// Reads a kit and the models of its pieces, and makes their bodies. `file` is how levels name it: from
/// `folder`, or a whole path. A model that cannot be read leaves its piece without a body, with a remark.
Result<Kit> load_kit(const std::filesystem::path& folder, const std::string& file,
                     std::vector<Error>& remarks);
/// The kit with bodies made anew of those pieces that have none, from their files.
Kit with_bodies(Kit kit, const std::filesystem::path& folder, std::vector<Error>& remarks);
/// Writes a kit's file, whole or not at all; its models are left alone.
Result<void> save_kit(const Kit& kit, const std::filesystem::path& folder);
/// The kits in a project's folder, as levels name them, by name.
std::vector<std::string> kit_files(const std::filesystem::path& folder);
/// Where the model of a piece lies.
std::filesystem::path model_path(const Kit& kit, const Piece& piece, const std::filesystem::path& folder);

} // namespace rubble::io
