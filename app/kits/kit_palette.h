#pragma once

#include <map>

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>

#include "session/session.h"

namespace rubble::app {

/// The pieces of a kit as pictures made from themselves: one is taken into the hand.
class KitPalette : public QWidget {
    Q_OBJECT
public:
    /// What of a kit: all of its pieces, or those that sit on no module.
    enum class Shows { pieces, props };
    explicit KitPalette(Session& session, Shows shows = Shows::pieces, QWidget* parent = nullptr);

    /// Shows what the session has now.
    void refresh();

protected:
    void resizeEvent(QResizeEvent* event) override;

signals:
    /// One was chosen: it is to be put into the level.
    void pieceTaken();

private:
    void fill_kits();
    void fill_pieces();
    void take(QListWidgetItem* item);
    QIcon icon_of(const Piece& piece);

    bool shows(const Piece& piece) const { return shows_ == Shows::pieces || piece.seat == PieceSeat::free; }
    bool shows(const Kit& kit) const;

    Session& session_;
    Shows shows_;
    QComboBox *kits_ = nullptr, *parts_ = nullptr;
    QLineEdit* search_ = nullptr;
    QListWidget* pieces_ = nullptr;
    std::map<const PieceBody*, std::pair<std::shared_ptr<const PieceBody>, QIcon>> icons_;
    std::shared_ptr<const Kit> shown_;
    std::map<std::string, int> uses_; ///< how often each piece of the kit stands in the level
};

} // namespace rubble::app
