package sqlite

import (
	"context"
	"errors"

	"cressa/workshop"
)

// Settings implements workshop.PreferenceStore.
func (s *Store) Settings(ctx context.Context) (workshop.Settings, error) {
	var text string
	err := s.row(ctx, `SELECT document FROM settings`, nil, &text)
	if errors.Is(err, workshop.ErrNotFound) {
		return workshop.Settings{}, nil
	}
	if err != nil {
		return workshop.Settings{}, err
	}
	return readSettings(text)
}

// SaveSettings implements workshop.PreferenceStore.
func (s *Store) SaveSettings(ctx context.Context, settings workshop.Settings, version int) error {
	doc := settingsDocument(settings)
	if version == 0 {
		return s.changeOne(ctx, `INSERT INTO settings (id, document, version) VALUES (1, ?, ?) ON CONFLICT DO NOTHING`, doc, settings.Version)
	}
	return s.changeOne(ctx, `UPDATE settings SET document = ?, version = ? WHERE version = ?`, doc, settings.Version, version)
}
