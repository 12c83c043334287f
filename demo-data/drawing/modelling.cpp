#include "modelling.h"

#include "build/piece_body.h"
#include "io/model_writer.h"

namespace rubble::demo {

Result<void> add_piece(ModelledKit& to, const Project& looks, Piece piece, const Modelling& model) {
    Piece modelled;
    modelled.items = model.items();
    const PieceBody body = build::piece_body(modelled, {});
    piece.file = piece.id + ".glb";
    piece.size_m = body.box.high - body.box.low;
    auto bytes = io::glb_of(looks, body.model, piece.name);
    if (!bytes) return tl::unexpected(bytes.error());
    to.files[piece.file] = std::move(*bytes);
    piece.body = std::make_shared<const PieceBody>(body);
    to.kit.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
    return {};
}

} // namespace rubble::demo
