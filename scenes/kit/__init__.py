"""What the scenes are built with: noise, meshes, yarn, lettering, surfaces, and the renderer around them."""
