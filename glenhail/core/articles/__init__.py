"""What an article shows, and how it stands on a page."""
