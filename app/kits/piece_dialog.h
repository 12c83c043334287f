#pragma once

#include <set>

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTableWidget>

#include "session/session.h"

namespace rubble::app {

/// What a kit says of its pieces, for one or for many at once: what they are met as, over their pictures;
/// where they sit; how far they reach into their neighbours; their joints, put right by hand; tags and values
/// for the game.
class PieceDialog : public QDialog {
    Q_OBJECT
public:
    /// `folder` is what the kit's file is named from; `first` is shown first.
    PieceDialog(const Session& session, Kit kit, std::filesystem::path folder, const std::string& first,
                QWidget* parent = nullptr);

    /// As it was changed.
    const Kit& kit() const { return kit_; }

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* build_form();
    QWidget* build_joints();
    std::vector<size_t> chosen() const;
    const Piece& first() const;
    void change(const std::function<void(Piece&)>& edit, bool matter);
    void show_piece();
    void show_picture();
    void show_joints();
    void take_joints();

    const Session& session_;
    Kit kit_;
    std::filesystem::path folder_;
    bool showing_ = false;
    QListWidget* list_ = nullptr;
    QLabel *picture_ = nullptr, *about_ = nullptr;
    QLineEdit *name_ = nullptr, *node_ = nullptr;
    QComboBox *collision_ = nullptr, *seat_ = nullptr;
    QDoubleSpinBox *thickness_ = nullptr, *overlap_ = nullptr;
    QCheckBox *covers_ = nullptr, *by_hand_ = nullptr;
    QPlainTextEdit* values_ = nullptr;
    QTableWidget* joints_ = nullptr;
};

} // namespace rubble::app
