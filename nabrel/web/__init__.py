"""The web application: Flask, a JSON API with one blueprint a room, and the built front end."""
