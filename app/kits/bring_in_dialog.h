#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>

#include "build/bring_in.h"
#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

using BroughtPieces = std::vector<build::BroughtPiece>;

/// Models on their way into a kit: side by side at one scale beside the character, with what is odd about
/// them. What is proposed is changed for those that are chosen, or for all.
class BringInDialog : public QDialog {
    Q_OBJECT
public:
    BringInDialog(const Session& session, std::vector<build::BroughtPiece> files, QWidget* parent = nullptr);

    /// As they were made last; none before the first time.
    const std::vector<build::BroughtPiece>& pieces() const { return pieces_; }
    /// The kit that they go to: its file, as levels name it, or empty for a new one; and its name.
    std::string kit_file() const;
    QString kit_name() const { return kit_->currentText(); }
    Vec3 module_m() const;

signals:
    void made(quint64 request, const rubble::app::BroughtPieces& pieces);

private:
    struct Job {
        std::vector<build::BroughtPiece> files;
        build::BringIn how;
    };
    void take_pieces(quint64 request, const BroughtPieces& pieces);
    QWidget* build_settings();
    void take_settings();
    void make_pieces();
    void show_pieces();
    void show_picture();
    void set_collision(int index);
    void show_chosen();
    std::vector<size_t> chosen() const;

    const Session& session_;
    std::vector<build::BroughtPiece> files_, pieces_;
    quint64 request_ = 0;
    build::BringIn how_;
    bool showing_ = false;
    QComboBox *kit_ = nullptr, *up_ = nullptr, *origin_ = nullptr, *collision_ = nullptr;
    QDoubleSpinBox *scale_ = nullptr, *module_[3] = {};
    QCheckBox* own_pieces_ = nullptr;
    QTableWidget* table_ = nullptr;
    QLabel *picture_ = nullptr, *chosen_text_ = nullptr;
    QPushButton* agree_ = nullptr;
    NewestJob<Job> jobs_; ///< makes the pieces: what they are met as may take a while
};

/// The kinds of collision, as the user reads them, in the order in which they are offered.
QStringList collision_names();
/// The kind that is offered at a place of that list, and the other way round.
PieceCollisionKind collision_at(int index);
int index_of(PieceCollisionKind kind);

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::BroughtPieces)
