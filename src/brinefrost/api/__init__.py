"""The web's edge: routes, request and reply models, sign-in, errors as statuses."""
